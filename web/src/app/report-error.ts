import { isAppError } from '@isochron/core/schema';
import { postFault } from '../api/client';
import { toaster } from './toaster';

const WRONG = 'Something went wrong in Isochron.';
const KEPT = 'What you played is kept. Try again; if it comes back, the details help whoever looks after Isochron.';

/** What there is to say of a fault: what it was, where in the program, and on which page. */
const detailsOf = (error: unknown): string => {
  const { stack, message } = error instanceof Error ? error : { stack: undefined, message: String(error) };
  const said = stack?.includes(message) ? stack : `${message}\n${stack ?? ''}`;
  return `${said.trim()}\nat ${location.pathname}, ${navigator.userAgent}`;
};

/** Puts the details of a fault where the player can paste them. */
export const copyDetails = (error: unknown): Promise<void> => navigator.clipboard.writeText(detailsOf(error));

const reported = new WeakSet<object>();

/**
 * Tells the server's log of a fault of the program; of one and the same only once. An error with a sentence is none, and neither is what was
 * broken off on purpose. Gives back whether it is news.
 */
export const logFault = (error: unknown): boolean => {
  if (isAppError(error) || (error instanceof Error && error.name === 'AbortError')) return false;
  if (typeof error === 'object' && error !== null) {
    if (reported.has(error)) return false;
    reported.add(error);
  }
  const details = detailsOf(error);
  console.error(details);
  postFault(details);
  return true;
};

/** Tells the server's log and the player of a fault of the program. */
export const reportError = (error: unknown): void => {
  if (!logFault(error)) return;
  toaster.create({
    title: WRONG,
    description: KEPT,
    duration: 20_000,
    action: { label: 'Copy details', onClick: () => void copyDetails(error) },
  });
};

/** What an error is to the player: its own sentence, or that something went wrong here, which is then reported. Nothing for no error. */
export const playerMessage = (error: unknown): string => {
  if (error === null || error === undefined) return '';
  if (isAppError(error)) return error.message;
  // Not now: this is asked while a page is drawn.
  queueMicrotask(() => reportError(error));
  return WRONG;
};
