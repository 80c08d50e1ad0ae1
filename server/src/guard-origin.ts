import type { RequestHandler } from 'express';
import { Refusal } from './refusal';

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

/**
 * Refuses requests that were not meant for this server (a foreign Host, as in DNS rebinding) or that another site's page sends
 * (a foreign Origin, or what the browser itself calls cross-site, on anything that writes).
 */
export const guardOrigin = (ownHost: string): RequestHandler => {
  const own = new Set(['localhost', '127.0.0.1', '::1', nameOf(ownHost)]);
  return (request, _response, next) => {
    const host = (request.headers.host ?? '').toLowerCase();
    if (!own.has(nameOf(host))) throw new Refusal(403, 'This address is not served here.');
    if (request.method !== 'GET' && request.method !== 'HEAD') {
      const { origin } = request.headers;
      const isForeign = origin !== undefined && originOf(origin) !== `http://${host}`;
      if (isForeign || request.headers['sec-fetch-site'] === 'cross-site')
        throw new Refusal(403, 'Requests from other sites are not accepted.');
    }
    next();
  };
};
