import { midiOf } from '../rhythm/pitch';
import { beats } from '../schema/beats';
import { barStarts } from '../schema/frame';
import type { Passage, PassageNote } from '../schema/passage';

/** A stretch of bars that was found, as it would be named: A, B, A′ … */
export interface FoundSection {
  name: string;
  fromBar: number;
  toBar: number;
  /** The first of its kind, where it repeats one exactly. */
  repeats?: { fromBar: number; toBar: number };
}

/** Bars are nearly the same where this share of their notes is, in place and pitch, or in place and in steps from note to note. */
const NEARLY = 0.7;

/** The notes of each bar, as words: place, length and pitch. */
const barNotes = (passage: Passage): { exact: string[]; shape: string[] }[] => {
  const lines = barStarts(passage);
  const bars = lines.slice(0, -1).map(() => [] as PassageNote[]);
  for (const note of passage.notes) {
    if (note.grace) continue;
    const at = beats(note.at);
    const bar = lines.findLastIndex((line) => line.compare(at) <= 0);
    bars[Math.max(0, bar)]?.push(note);
  }
  return bars.map((notes, bar) => {
    const ordered = [...notes].sort((a, b) => beats(a.at).compare(beats(b.at)) || a.staff - b.staff || a.voice - b.voice);
    const first = ordered.find(({ pitch }) => pitch)?.pitch;
    const zero = first ? midiOf(first) : 0;
    const place = (note: PassageNote) =>
      `${beats(note.at)
        .sub(lines[bar] ?? 0)
        .toFraction()}:${note.length}:${note.staff}`;
    return {
      exact: ordered.map((note) => `${place(note)}:${note.pitch ? midiOf(note.pitch) : 'x'}`),
      shape: ordered.map((note) => `${place(note)}:${note.pitch ? midiOf(note.pitch) - zero : 'x'}`),
    };
  });
};

const overlap = (a: readonly string[], b: readonly string[]): number => {
  if (a.length === 0 && b.length === 0) return 1;
  const rest = [...b];
  let same = 0;
  for (const one of a) {
    const at = rest.indexOf(one);
    if (at < 0) continue;
    rest.splice(at, 1);
    same += 1;
  }
  return same / Math.max(a.length, b.length);
};

/** How alike two bars are: 1 the same, 0 nothing in common. A bar on another step counts a little less than the same one. */
const likeness = (a: { exact: string[]; shape: string[] }, b: { exact: string[]; shape: string[] }): number =>
  Math.max(overlap(a.exact, b.exact), 0.95 * overlap(a.shape, b.shape));

const PRIMES = ['', '′', '″', '‴'];

/**
 * Sections as repeated and nearly repeated bars make them: bars are compared one by one, and neighbours that repeat neighbours are taken
 * together. The first of a kind is A, B …; one that repeats it with changes is A′. Empty where nothing repeats.
 */
export const foundSections = (passage: Passage): FoundSection[] => {
  const bars = barNotes(passage);
  // Each bar's kind: the first bar that it is like.
  const kindOf: { first: number; exact: boolean }[] = [];
  bars.forEach((bar, k) => {
    const best = kindOf
      .map(({ first }, earlier) => ({ first, earlier }))
      .filter(({ first, earlier }) => first === earlier)
      .map(({ first }) => ({ first, share: likeness(bars[first] as typeof bar, bar) }))
      .reduce<{ first: number; share: number } | null>((most, one) => (!most || one.share > most.share ? one : most), null);
    if (bar.exact.length > 0 && best && best.share >= NEARLY) kindOf.push({ first: best.first, exact: best.share === 1 });
    else kindOf.push({ first: k, exact: true });
  });
  if (kindOf.every(({ first }, k) => first === k)) return [];
  const times = (first: number) => kindOf.filter((kind) => kind.first === first).length;
  // Runs of bars that are followed, wherever they stand, by the same bars belong together.
  const sections: { fromBar: number; toBar: number; kinds: number[]; exact: boolean }[] = [];
  for (let k = 0; k < bars.length; ) {
    let to = k + 1;
    const repeatsAhead = (from: number, end: number) =>
      kindOf.some(
        (_, other) => other !== from && sameKinds(kindOf, from, other, end - from) && Math.abs(other - from) >= end - from,
      );
    if (times(kindOf[k]?.first ?? k) > 1) while (to < bars.length && repeatsAhead(k, to + 1)) to += 1;
    else while (to < bars.length && times(kindOf[to]?.first ?? to) === 1) to += 1;
    sections.push({
      fromBar: k + 1,
      toBar: to,
      kinds: kindOf.slice(k, to).map(({ first }) => first),
      exact: kindOf.slice(k, to).every(({ exact }) => exact),
    });
    k = to;
  }
  const letters = new Map<string, { letter: string; changed: number; fromBar: number; toBar: number }>();
  return sections.map(({ fromBar, toBar, kinds, exact }) => {
    const key = kinds.join();
    const known = letters.get(key);
    if (!known) {
      const letter = String.fromCharCode(65 + (letters.size % 26));
      letters.set(key, { letter, changed: 0, fromBar, toBar });
      return { name: letter, fromBar, toBar };
    }
    if (exact) return { name: known.letter, fromBar, toBar, repeats: { fromBar: known.fromBar, toBar: known.toBar } };
    known.changed += 1;
    return { name: `${known.letter}${PRIMES[Math.min(known.changed, 3)]}`, fromBar, toBar };
  });
};

const sameKinds = (kinds: readonly { first: number }[], a: number, b: number, length: number): boolean =>
  a + length <= kinds.length &&
  b + length <= kinds.length &&
  Array.from({ length }, (_, k) => kinds[a + k]?.first === kinds[b + k]?.first).every(Boolean);
