import { AppError } from '@isochron/core/schema';
import type { ErrorRequestHandler } from 'express';
import type { Logger } from 'pino';
import { z } from 'zod';
import { storageErrorOf } from './storage-error';

/** A request that cannot be met, with an HTTP status and a sentence for the player. */
export class RequestError extends AppError {
  constructor(
    readonly status: number,
    message: string,
  ) {
    super(message);
  }
}

const firstIssue = (error: z.ZodError): string => {
  const issue = error.issues[0];
  return issue ? `${issue.path.join('.')}: ${issue.message}`.replace(/^: /, '') : 'The data sent is not as expected.';
};

/** What a refusal by Express or its parsers means, by its type or its status. */
const REQUEST_FAULTS: Record<string, string> = {
  'entity.too.large': 'That is too large to be stored.',
  'entity.parse.failed': 'The data sent is not valid JSON.',
  'encoding.unsupported': 'The data sent is packed in a way that is not understood here.',
  'charset.unsupported': 'The data sent is in a character set that is not understood here. Send UTF-8.',
  'request.aborted': 'The request was broken off.',
  '400': 'The request cannot be understood.',
  '404': 'There is nothing at this address.',
  '412': 'The request asks for another version than the one stored.',
  '413': 'That is too large to be stored.',
  '415': 'The data sent is of a kind that is not understood here.',
  '416': 'The recording has no such part.',
};

interface Explained {
  status: number;
  message: string;
}

/** A fault that carries a 4xx status of its own, as those of Express and its parsers do. */
const requestFault = (error: unknown): Explained | null => {
  const { status, type } = error as { status?: unknown; type?: unknown };
  if (typeof status !== 'number' || status < 400 || status > 499) return null;
  const message = REQUEST_FAULTS[String(type)] ?? REQUEST_FAULTS[String(status)] ?? (REQUEST_FAULTS['400'] as string);
  return { status, message };
};

/** What a fault means to the player: status and sentence. */
const explain = (error: unknown): Explained => {
  if (error instanceof RequestError) return { status: error.status, message: error.message };
  if (error instanceof z.ZodError) return { status: 400, message: firstIssue(error) };
  // What the browser broke off is no fault of the server.
  if (
    (error as { code?: string }).code === 'ECONNABORTED' ||
    (error as { code?: string }).code === 'ERR_STREAM_PREMATURE_CLOSE'
  )
    return { status: 400, message: REQUEST_FAULTS['request.aborted'] as string };
  const own = storageErrorOf(error) ?? requestFault(error);
  if (own) return own;
  if ((error as { name?: string }).name === 'SequelizeForeignKeyConstraintError')
    return { status: 409, message: 'It refers to something that is not stored here.' };
  return { status: 500, message: 'The server met a fault of its own. What you played is kept in the browser; try again.' };
};

/** Answers every fault as `{message}`; unexpected ones are logged. */
export const answerFaults =
  (log: Logger): ErrorRequestHandler =>
  (error, request, response, next) => {
    const { status, message } = explain(error);
    if (status >= 500) log.error({ err: error, path: request.path }, message);
    if (response.headersSent) next(error);
    else response.status(status).type('json').json({ message });
  };
