import type { RequestHandler } from 'express';
import { RequestError } from './request-error';

/**
 * Refuses bodies that are read into memory where all of them together come to more than the server bears; a later try finds room.
 * One of unknown length counts as the longest there may be. Bodies that go to the disk as they come are not counted.
 */
export const limitTogether = (mostBytes: number, togetherBytes: number): RequestHandler => {
  let heldBytes = 0;
  return (request, response, next) => {
    if (!request.is('json')) {
      next();
      return;
    }
    const announced = request.get('Content-Length');
    const bytes = announced === undefined ? mostBytes : Math.min(mostBytes, Number(announced) || 0);
    // One alone always has room, whatever it says of itself: its own limit is looked after elsewhere.
    if (heldBytes > 0 && heldBytes + bytes > togetherBytes) {
      response.setHeader('Retry-After', '2');
      throw new RequestError(503, 'More is being sent at once than there is room for. It will be tried once more.');
    }
    heldBytes += bytes;
    response.once('close', () => {
      heldBytes -= bytes;
    });
    next();
  };
};
