import { setClock } from '@isochron/core/schema';

// A server whose clock was set says by how much, so that page and server have the same day. Before anything else is loaded: what is kept in
// the browser is read by this clock.
const aheadMs = Number(document.querySelector('meta[name=isochron-clock]')?.getAttribute('content') ?? 0);
if (aheadMs) setClock(new Date(Date.now() + aheadMs));
