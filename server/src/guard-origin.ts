import type { RequestHandler } from 'express';
import { RequestError } from './request-error';

const nameOf = (host: string): string =>
  host
    .toLowerCase()
    .replace(/:\d+$/, '')
    .replace(/^\[|\]$/g, '');

/** The origin of a page as the browser writes it: scheme, host and port; null for what is none. */
const originOf = (text: string): string | null => {
  try {
    return new URL(text).origin;
  } catch {
    return null;
  }
};

/** What a browser says of where a request comes from, where it is ours: this page, or the player's own hand. */
const OWN_SITES = new Set(['same-origin', 'none']);

/**
 * Refuses requests that were not meant for this server (a foreign Host, as in DNS rebinding) or that another site's page sends: a
 * foreign Origin on anything that writes, and what the browser itself calls another site (another port of this machine is one) on all
 * that is no page. A backup is hours of work, though it only reads.
 */
export const guardOrigin = (ownHost: string): RequestHandler => {
  const own = new Set(['localhost', '127.0.0.1', '::1', nameOf(ownHost)]);
  return (request, _response, next) => {
    const host = (request.headers.host ?? '').toLowerCase();
    if (!own.has(nameOf(host))) throw new RequestError(403, 'This address is not served here.');
    const { origin } = request.headers;
    const site = request.headers['sec-fetch-site'];
    const isWrite = request.method !== 'GET' && request.method !== 'HEAD';
    const isForeign = isWrite && origin !== undefined && originOf(origin) !== `http://${host}`;
    const isAsked = isWrite || request.path.startsWith('/api');
    if (isForeign || (isAsked && site !== undefined && !OWN_SITES.has(String(site))))
      throw new RequestError(403, 'Requests from other sites are not accepted.');
    next();
  };
};
