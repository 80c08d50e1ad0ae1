import type { ErrorRequestHandler } from 'express';
import type { Logger } from 'pino';
import { z } from 'zod';

/** A request that cannot be met, with an HTTP status and a sentence for the player. */
export class Refusal extends Error {
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

/** What a fault means to the player: status and sentence. */
const explain = (error: unknown): { status: number; message: string } => {
  if (error instanceof Refusal) return { status: error.status, message: error.message };
  if (error instanceof z.ZodError) return { status: 400, message: firstIssue(error) };
  const { code, type, name } = error as { code?: string; type?: string; name?: string };
  if (code === 'ENOSPC' || code === 'SQLITE_FULL') {
    return { status: 507, message: 'The disk is full. Free some space; the take is kept in the browser until then.' };
  }
  if (type === 'entity.too.large') return { status: 413, message: 'That is too large to be stored.' };
  if (type === 'entity.parse.failed') return { status: 400, message: 'The data sent is not valid JSON.' };
  if (name === 'SequelizeForeignKeyConstraintError')
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
    else response.status(status).json({ message });
  };
