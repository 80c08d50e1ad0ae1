const NAME = 'AppError';

/**
 * An error that the player can act on: its message is a sentence for the player. Any other error is a fault of the program, which is
 * reported and never given as advice.
 */
export class AppError extends Error {
  override readonly name = NAME;
}

/** Whether an error has a sentence for the player. Told by its name: of what comes out of a worker, only name and message are left. */
export const isAppError = (error: unknown): error is AppError => error instanceof Error && error.name === NAME;

/** So many characters of a fault's details are reported to the server, and taken by it. */
export const MAX_FAULT_LENGTH = 8000;
