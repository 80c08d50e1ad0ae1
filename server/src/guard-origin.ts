import type { RequestHandler } from 'express';
import { Refusal } from './refusal';

const nameOf = (host: string): string => host.replace(/:\d+$/, '').replace(/^\[|\]$/g, '');

/**
 * Refuses requests that were not meant for this server (a foreign Host, as in DNS rebinding) or that another site's
 * page sends (a foreign Origin on anything that writes).
 */
export const guardOrigin = (ownHost: string): RequestHandler => {
  const own = new Set(['localhost', '127.0.0.1', '::1', nameOf(ownHost)]);
  return (request, _response, next) => {
    const host = request.headers.host ?? '';
    if (!own.has(nameOf(host))) throw new Refusal(403, 'This address is not served here.');
    const { origin } = request.headers;
    if (origin !== undefined && request.method !== 'GET' && new URL(origin).host !== host) {
      throw new Refusal(403, 'Requests from other sites are not accepted.');
    }
    next();
  };
};
