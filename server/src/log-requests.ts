import type { RequestHandler } from 'express';
import type { Logger } from 'pino';

/** What names one take, passage or day is nobody's business in a log. */
const withoutIds = (path: string): string =>
  path
    .split('/')
    .map((part, k) => (k > 2 && /[\d-]/.test(part) ? ':id' : part))
    .join('/');

/** Logs each request at debug: method, path without ids, status and milliseconds. */
export const logRequests =
  (log: Logger): RequestHandler =>
  (request, response, next) => {
    if (!log.isLevelEnabled('debug')) {
      next();
      return;
    }
    const began = performance.now();
    response.once('finish', () => {
      const { method, originalUrl } = request;
      const path = withoutIds(originalUrl.split('?')[0] ?? '');
      const ms = Math.round(10 * (performance.now() - began)) / 10;
      log.debug({ method, path, status: response.statusCode, ms }, 'request');
    });
    next();
  };
