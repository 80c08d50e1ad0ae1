import type { z } from 'zod';

/** What a row is to the player. */
export type RowKind =
  | 'passage'
  | 'course'
  | 'take'
  | 'repetition'
  | 'earlier analysis'
  | 'sitting'
  | 'notebook entry'
  | 'day'
  | 'accompaniment';

const WORDS: Record<RowKind, string> = {
  passage: 'The passage',
  course: 'How a passage is practised',
  take: 'The take',
  repetition: 'A repetition of the take',
  'earlier analysis': 'Earlier figures of the take',
  sitting: 'The sitting',
  'notebook entry': 'An entry of the notebook',
  day: 'A day of practice',
  accompaniment: 'A recording to play along with',
};

/** Rows that cannot be read: each hides only itself, is named, and is left as it is. */
export interface Unreadable {
  /** The document of a row, or null where it is none. */
  read<Document>(kind: RowKind, name: string, schema: z.ZodType<Document>, stored: unknown): Document | null;
  /** Notes a row that cannot be read. */
  note(kind: RowKind, name: string): void;
  /** One sentence for each row that was met and still cannot be read. */
  sentences(): string[];
}

/** Makes an {@link Unreadable}. */
export const createUnreadable = (): Unreadable => {
  const met = new Map<string, string>();
  const note = (kind: RowKind, name: string) => {
    met.set(
      `${kind} ${name}`,
      `${WORDS[kind]} (${name}) cannot be read and is left out. What is stored of it is left as it is.`,
    );
  };
  return {
    read(kind, name, schema, stored) {
      const parsed = schema.safeParse(stored);
      if (parsed.success) {
        met.delete(`${kind} ${name}`);
        return parsed.data;
      }
      note(kind, name);
      return null;
    },
    note,
    sentences: () => [...met.values()],
  };
};
