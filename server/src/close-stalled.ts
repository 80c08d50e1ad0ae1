import type { RequestHandler } from 'express';

/** Less than this in the time that is allowed is no transfer that goes on. */
const MIN_BYTES = 1000;

/** Closes requests whose body stands still: they hold memory, files and a place in line. */
export const closeStalled =
  (stallMs: number): RequestHandler =>
  (request, response, next) => {
    let before = request.socket.bytesRead;
    const look = setInterval(() => {
      const { bytesRead } = request.socket;
      if (request.complete) clearInterval(look);
      else if (bytesRead - before < MIN_BYTES) {
        clearInterval(look);
        const end = () => request.destroy(new Error('Nothing came any more.'));
        if (response.headersSent) end();
        else
          response
            .set('Connection', 'close')
            .status(408)
            .once('finish', end)
            .json({ message: 'Nothing came any more, so the transfer was closed. Send it once more.' });
      }
      before = bytesRead;
    }, stallMs);
    response.once('close', () => clearInterval(look));
    next();
  };
