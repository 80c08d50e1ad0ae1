import { type Sequelize, Transaction } from 'sequelize';
import { sealTouched } from './seal';

/** Who writes, one at a time. */
export interface Writer {
  /** Does something that writes, all of it or nothing, and seals the rows. Who comes meanwhile waits its turn. */
  write<Result>(work: (transaction: Transaction) => Promise<Result>): Promise<Result>;
  /** Does something while nobody writes, over whatever connection it makes for itself. */
  alone<Result>(work: () => Promise<Result>): Promise<Result>;
  /** Settles when everybody had their turn. */
  settled(): Promise<void>;
}

/** So long a write tries while another program holds the database; then the player is told. */
const PATIENCE_MS = 3000;

/** Whether another program holds the database. */
export const isHeld = (error: unknown): boolean => {
  const code = (error as { parent?: { code?: string } } | null)?.parent?.code ?? '';
  return code === 'SQLITE_BUSY' || code === 'SQLITE_LOCKED';
};

/** Makes the {@link Writer} of a database. */
export const createWriter = (database: Sequelize): Writer => {
  let last: Promise<unknown> = Promise.resolve();
  /** Why the last write could not begin, while that is so. */
  let held: unknown = null;

  const alone = <Result>(work: () => Promise<Result>): Promise<Result> => {
    const turn = last.then(work);
    last = turn.catch(() => {});
    return turn;
  };
  const transact = <Result>(work: (transaction: Transaction) => Promise<Result>): Promise<Result> =>
    database.transaction({ type: Transaction.TYPES.IMMEDIATE }, async (transaction) => {
      const result = await work(transaction);
      await sealTouched(transaction);
      return result;
    });

  return {
    alone,
    write(work) {
      const untilMs = performance.now() + PATIENCE_MS;
      return alone(async () => {
        for (;;) {
          // Who stood in line behind one that gave up has waited as long.
          if (held && performance.now() > untilMs) throw held;
          try {
            const result = await transact(work);
            held = null;
            return result;
          } catch (error) {
            held = isHeld(error) ? error : null;
            if (!held || performance.now() > untilMs) throw error;
          }
        }
      });
    },
    settled: async () => {
      await last;
    },
  };
};
