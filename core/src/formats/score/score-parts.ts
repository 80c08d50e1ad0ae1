import { UnreadableScore } from './score';

/** What can be taken of a file by itself: a part, a track, a voice, a tune, or two of them as two staves. */
export interface ScorePart {
  /** Told from the others of its file, and the same each time it is read. */
  id: string;
  name: string;
  /** How many notes are written in it. */
  notes: number;
}

/** Names in files may be of any length; so much is read of them. */
const NAME_LENGTH = 80;

/** The same parts with names that tell them apart. */
export const toldApart = <Part extends ScorePart>(parts: readonly Part[]): Part[] => {
  const times = new Map<string, number>();
  return parts.map((part) => {
    const name = part.name.slice(0, NAME_LENGTH);
    const time = (times.get(name) ?? 0) + 1;
    times.set(name, time);
    return { ...part, name: time === 1 ? name : `${name} (${time})` };
  });
};

/** The part that was asked for, else the first. Throws {@link UnreadableScore} where there is none of that id. */
export const chosenPart = <Part extends ScorePart>(parts: readonly Part[], id: string | undefined): Part => {
  const found = id === undefined ? parts[0] : parts.find((part) => part.id === id);
  if (!found) throw new UnreadableScore('This part is not in the file. Choose one of those that are.');
  return found;
};

/** What a score says of the parts of its file: nothing where there is but one. */
export const offered = (parts: readonly ScorePart[]): { parts?: ScorePart[] } =>
  parts.length > 1 ? { parts: parts.map(({ id, name, notes }) => ({ id, name, notes })) } : {};

/** The sentence that says what was left out of a file of several parts; none where there is nothing but one. */
export const leftOut = (parts: readonly ScorePart[], taken: ScorePart, kind: string): string[] =>
  parts.length > 1 ? [`Of the ${kind} of this file this is taken: ${taken.name}.`] : [];
