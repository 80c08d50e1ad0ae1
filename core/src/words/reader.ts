import type { NoteNaming } from '../rhythm/note-values';
import type { Reason } from '../schema/reason';

/** For whom a sentence is made. */
export interface Reader {
  noteNaming: NoteNaming;
}

/** Makes the sentence of one code from its values. */
export type Sentence = (values: Values, reader: Reader) => string;

/** The codes of a dictionary by its name: where two dictionaries have the same code, the catalogue of reasons does not compile. */
export type CodesOf<Name extends string, Dictionary> = { [Code in keyof Dictionary]: Name };

/** The values of a {@link Reason}, read as what the sentence needs. */
export interface Values {
  number(name: string): number;
  /** The number, or null where it was not given. */
  maybe(name: string): number | null;
  text(name: string): string;
}

/** Reads the values of a reason. A value that is missing reads as 0 or as nothing: an old take still gets its sentence. */
export const valuesOf = ({ values }: Pick<Reason, 'values'>): Values => {
  const maybe = (name: string) => (typeof values[name] === 'number' ? (values[name] as number) : null);
  return { maybe, number: (name) => maybe(name) ?? 0, text: (name) => String(values[name] ?? '') };
};

/** A tempo without needless decimals. */
export const bpmWords = (bpm: number): string => String(Math.round(bpm * 10) / 10);

/** A text with a capital at its beginning. */
export const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

/** So many of something: "1 note", "2 notes". */
export const countWords = (count: number, one: string, many: string): string => `${count} ${count === 1 ? one : many}`;
