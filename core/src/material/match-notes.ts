import { rollup } from 'd3-array';
import type { PassageNote } from '../schema/passage';

type Written = Pick<PassageNote, 'id' | 'at' | 'length' | 'pitch' | 'staff' | 'voice' | 'grace'>;

const pitchOf = ({ pitch }: Written): string => (pitch ? `${pitch.step}${pitch.alter}/${pitch.octave}` : '-');
/** What a note is, wherever it stands. */
const kindOf = (note: Written): string => `${pitchOf(note)} ${note.length}`;
const placeOf = (note: Written): string => `${note.at} ${pitchOf(note)}`;
const lineOf = ({ staff, voice, grace = false }: Written): string => `${staff}/${voice}/${grace}`;

/**
 * Which note written anew is which of those before, by their ids: in each voice what is alike from the beginning on and from the end back
 * (so that notes may be put in or taken out between), and of the rest what stayed at its place with its pitch; where as many are then left on
 * both sides, and no more than half of all, they are the same one after the other: a note of another pitch is the same note, other music is not.
 */
export const matchedNotes = (before: readonly Written[], after: readonly Written[]): Map<string, string> => {
  const ids = new Map<string, string>();
  const linesOf = (notes: readonly Written[]) => rollup(notes, (own) => own, lineOf);
  const olds = linesOf(before);
  for (const [line, all] of linesOf(after)) {
    let old: readonly Written[] = olds.get(line) ?? [];
    let news: readonly Written[] = all;
    // What is alike at both ends, by all that a note is, then by its pitch alone.
    for (const of of [kindOf, pitchOf]) {
      const most = Math.min(old.length, news.length);
      const isAlike = (k: number) => of(old.at(k) as Written) === of(news.at(k) as Written);
      let head = 0;
      while (head < most && isAlike(head)) head += 1;
      let tail = 0;
      while (tail < most - head && isAlike(-1 - tail)) tail += 1;
      for (let k = -tail; k < head; k += 1) ids.set((news.at(k) as Written).id, (old.at(k) as Written).id);
      old = old.slice(head, old.length - tail);
      news = news.slice(head, news.length - tail);
    }
    const there = new Map(old.map((one) => [placeOf(one), one]));
    const left = new Set(old);
    const open = news.filter((two) => {
      const one = there.get(placeOf(two));
      if (!one || !left.delete(one)) return true;
      ids.set(two.id, one.id);
      return false;
    });
    const rest = [...left];
    if (rest.length === open.length && rest.length <= all.length / 2)
      for (const [k, two] of open.entries()) ids.set(two.id, (rest[k] as Written).id);
  }
  return ids;
};
