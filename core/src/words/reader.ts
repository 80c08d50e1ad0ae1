import { z } from 'zod';
import type { NoteNaming } from '../rhythm/note-values';
import type { Reason } from '../schema/reason';

/** For whom a sentence is made. */
export interface Reader {
  noteNaming: NoteNaming;
}

/** What a sentence may be made of. One that is missing reads as 0 or as nothing: an old take still gets its sentence. */
export const number = z.number().catch(0);
/** A number, or null where it was not given. */
export const maybe = z.number().nullable().catch(null);
export const text = z.union([z.string(), z.number().transform(String)]).catch('');

type Shape = Record<string, typeof number | typeof maybe | typeof text>;
type Values<Of extends Shape> = { [Name in keyof Of]: z.output<Of[Name]> };

/** What a reason must be given, by the shape of its sentence's values. */
type Given<Of extends Shape> = { [Name in keyof Of as null extends z.output<Of[Name]> ? never : Name]: z.output<Of[Name]> } & {
  [Name in keyof Of as null extends z.output<Of[Name]> ? Name : never]?: number;
};

/** The sentence of one code: the values that it needs, and how it is made of them. */
export interface Sentence<Of extends Shape = Shape> {
  shape: Of;
  of(values: Reason['values'], reader: Reader): string;
}

/** Sentences by their codes. */
// biome-ignore lint/suspicious/noExplicitAny: sentences of every shape.
export type Dictionary = Record<string, Sentence<any>>;

/**
 * Makes a {@link Sentence}.
 *
 * @param shape the values by name: {@link number}, {@link maybe} or {@link text}
 * @param words makes the sentence of them
 */
export const say = <Of extends Shape>(shape: Of, words: (values: Values<Of>, reader: Reader) => string): Sentence<Of> => {
  const schema = z.object(shape);
  return { shape, of: (values, reader) => words(schema.parse(values) as Values<Of>, reader) };
};

/** The codes of a dictionary with what each is given: where two dictionaries have the same code, the catalogue of reasons does not compile. */
export type CodesOf<Name extends string, Of extends Dictionary> = {
  [Code in keyof Of]: { in: Name; given: Of[Code] extends Sentence<infer One> ? Given<One> : never };
};

/** A tempo without needless decimals. */
export const bpmWords = (bpm: number): string => String(Math.round(bpm * 10) / 10);

/** A text with a capital at its beginning. */
export const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

/** So many of something: "1 note", "2 notes". */
export const countWords = (count: number, one: string, many: string): string => `${count} ${count === 1 ? one : many}`;
