import type { z } from 'zod';

/** What a row is to the player. */
export type RowKind =
  | 'passage'
  | 'config'
  | 'take'
  | 'repetition'
  | 'earlier analysis'
  | 'session'
  | 'notebook entry'
  | 'day'
  | 'accompaniment'
  | 'recording'
  | 'settings';

const WORDS: Record<RowKind, string> = {
  passage: 'The passage',
  config: 'How a passage is practised',
  take: 'The take',
  repetition: 'A repetition of the take',
  'earlier analysis': 'Earlier figures of the take',
  session: 'The session',
  'notebook entry': 'An entry of the notebook',
  day: 'A day of practice',
  accompaniment: 'A recording to play along with',
  recording: 'What is known of a recording',
  settings: 'A part of the settings',
};

/** By what the player knows a take: its title, and when it was begun. */
export const takeName = (title: string, startedAt: string): string =>
  `${title}, ${startedAt.slice(0, 16).replace('T', ' ')} UTC`;

/** Rows that cannot be read, or that are not as they were written: each hides only itself, is named, and is left as it is. */
export interface Unreadable {
  /** The document of a row, or null where it is none. `key` tells rows apart that are named alike. */
  read<Document>(kind: RowKind, name: string, schema: z.ZodType<Document>, stored: unknown, key?: string): Document | null;
  /** Notes a row that cannot be read. */
  note(kind: RowKind, name: string, key?: string): void;
  /** Notes takes of which a row is not as it was written, in the place of those noted before: no sum and no curve counts them. */
  setDamagedTakes(ids: Iterable<string>): void;
  /** A condition of SQL that leaves these takes out; empty where there are none. */
  exceptDamaged(column: string): string;
  /** One sentence for each row that was met and still cannot be read. */
  sentences(): string[];
}

const IDENTIFIER = /^[0-9a-f-]{36}$/;

/** Makes an {@link Unreadable}. */
export const createUnreadable = (): Unreadable => {
  const met = new Map<string, string>();
  let damagedTakes: string[] = [];
  const note = (kind: RowKind, name: string, key = name) => {
    met.set(
      `${kind} ${key}`,
      `${WORDS[kind]} (${name}) cannot be read and is left out. What is stored of it is left as it is.`,
    );
  };
  return {
    read(kind, name, schema, stored, key = name) {
      const parsed = schema.safeParse(stored);
      if (parsed.success) {
        met.delete(`${kind} ${key}`);
        return parsed.data;
      }
      note(kind, name, key);
      return null;
    },
    note,
    setDamagedTakes(ids) {
      damagedTakes = [...new Set(ids)].filter((id) => IDENTIFIER.test(id));
    },
    exceptDamaged: (column) =>
      damagedTakes.length > 0 ? `AND ${column} NOT IN (${damagedTakes.map((id) => `'${id}'`).join()})` : '',
    sentences: () => [...new Set(met.values())],
  };
};
