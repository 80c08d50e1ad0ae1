import { MIN_REPETITIONS, usableRepetitions } from '../across/usable';
import { holm } from '../across/weak-links';
import { beats } from '../schema/beats';
import { barStarts } from '../schema/frame';
import type { Passage, Section } from '../schema/passage';
import { makeReason, type Reason } from '../schema/reason';
import type { Repetition, Take } from '../schema/take';
import type { Tolerance } from '../schema/tolerance';
import { studentTProbability } from '../stats/interval-estimate';
import { mean, median, sampleSd } from '../stats/summary';
import { toleranceWindowMs } from '../verdict/tolerance-window';
import { foundSections } from './sections';

/** How much of the time a section gets. */
export interface SectionShare {
  section: Section;
  /** Of its notes that were played, how many were missed or outside the tolerance, in percent; null where none were. */
  offPct: number | null;
  /** Of the time for the passage, in percent. */
  sharePct: number;
  /** Whether all of its bars stand in a section before it, or repeat bars that do. */
  isCovered: boolean;
}

export interface SectionShares {
  shares: SectionShare[];
  why: Reason;
}

type RepetitionOutcome = Pick<Take, 'drills' | 'repetitions' | 'tolerance'>;

/** A section's own share of notes that were off is drawn towards that of all notes as by so many notes more. */
const DRAWN_NOTES = 30;

/** The bar of each note, from 1; a bar that repeats an earlier one exactly is that one: its practice is needed only once. */
const barOfNotes = (passage: Passage): Map<string, number> => {
  const lines = barStarts(passage);
  const firstOf = new Map<number, number>();
  for (const { fromBar, toBar, repeats } of foundSections(passage))
    if (repeats) for (let bar = fromBar; bar <= toBar; bar += 1) firstOf.set(bar, repeats.fromBar + bar - fromBar);
  return new Map(
    passage.notes.map(({ id, at }) => {
      const bar = Math.max(1, lines.findLastIndex((line) => line.compare(beats(at)) <= 0) + 1);
      return [id, firstOf.get(bar) ?? bar];
    }),
  );
};

/** Which notes of a repetition were missed, of another pitch, or outside the tolerance, against its own placement. */
const offNotes = ({ notes }: Repetition, tolerance: Tolerance): boolean[] => {
  const centre = median(notes.flatMap(({ deviationMs }) => deviationMs ?? []));
  return notes.map(({ deviationMs, expectedS, wrongPitch }, k) => {
    if (deviationMs === null || wrongPitch) return true;
    const other = notes[k + 1] ?? notes[k - 1];
    const intervalMs = other ? 1000 * Math.abs(other.expectedS - expectedS) : 1000;
    return Math.abs(deviationMs - centre) > toleranceWindowMs(tolerance, intervalMs);
  });
};

/** The notes of each repetition that was played straight: the bar of each, and whether it was off. */
const playedNotes = (passage: Passage, takes: readonly RepetitionOutcome[]): { bar: number; isOff: boolean }[][] => {
  const barOf = barOfNotes(passage);
  return takes.flatMap(({ drills, repetitions, tolerance }) =>
    usableRepetitions(repetitions).flatMap((repetition) => {
      const drill = drills[repetition.drill];
      if (drill?.method.id !== 'straight' || drill.also || drill.repetitionKind) return [];
      const off = offNotes(repetition, tolerance);
      return [
        drill.grid.events.flatMap(({ notes: [first] }, index) => {
          const bar = first && barOf.get(first.from);
          return bar === undefined ? [] : [{ bar, isOff: off[index] ?? true }];
        }),
      ];
    }),
  );
};

const rate = (notes: readonly { isOff: boolean }[]): number => notes.filter(({ isOff }) => isOff).length / notes.length;

/**
 * How the time for a passage is shared out among its sections: by how many of their notes were off, where one stands out from the rest of
 * the passage (paired over repetitions, Student's t, corrected for how many sections are looked at: Holm), else by length. What repeats
 * exactly counts once, with the first of its sections. Null for fewer than two sections.
 */
export const sectionShares = (passage: Passage, takes: readonly RepetitionOutcome[]): SectionShares | null => {
  const { sections } = passage;
  if (sections.length < 2) return null;
  const played = playedNotes(passage, takes);
  const barOf = new Set(barOfNotes(passage).values());
  const taken = new Set<number>();
  const own = sections.map((section) => {
    const bars = [...barOf].filter((bar) => bar >= section.fromBar && bar <= section.toBar);
    const fresh = bars.filter((bar) => !taken.has(bar));
    for (const bar of bars) taken.add(bar);
    const isIn = new Set(bars);
    const differences = played.flatMap((notes) => {
      const [inside, outside] = [notes.filter(({ bar }) => isIn.has(bar)), notes.filter(({ bar }) => !isIn.has(bar))];
      return inside.length && outside.length ? [rate(inside) - rate(outside)] : [];
    });
    return { section, isIn, length: fresh.length, notes: played.flat().filter(({ bar }) => isIn.has(bar)), differences };
  });
  const all = played.flat();
  const count = Math.max(...own.map(({ differences }) => differences.length));
  const probabilities = own.map(({ differences }) => {
    const sd = differences.length >= MIN_REPETITIONS ? sampleSd(differences) : 0;
    if (sd === 0) return 1;
    return studentTProbability((mean(differences) * Math.sqrt(differences.length)) / sd, differences.length - 1);
  });
  const stands = holm(probabilities);
  const hardest = own
    .filter(({ differences }, k) => stands[k] && mean(differences) > 0)
    .reduce<(typeof own)[number] | null>(
      (most, one) => (!most || mean(one.differences) > mean(most.differences) ? one : most),
      null,
    );
  const weights = own.map(({ length, notes }) => {
    if (!hardest) return length;
    const off = notes.filter(({ isOff }) => isOff).length;
    return (length * (off + DRAWN_NOTES * rate(all))) / (notes.length + DRAWN_NOTES);
  });
  const total = weights.reduce((sum, weight) => sum + weight, 0);
  const shares = own.map(({ section, notes, length }, k) => ({
    section,
    isCovered: length === 0,
    offPct: notes.length ? Math.round(100 * rate(notes)) : null,
    sharePct: total > 0 ? Math.round((100 * (weights[k] as number)) / total) : 0,
  }));
  if (count < MIN_REPETITIONS) return { shares, why: makeReason('sections-few', { needed: MIN_REPETITIONS }) };
  if (!hardest) return { shares, why: makeReason('sections-even', { count }) };
  const elsewhere = all.filter(({ bar }) => !hardest.isIn.has(bar));
  return {
    shares,
    why: makeReason('sections-hard', {
      name: hardest.section.name,
      inside: Math.round(100 * rate(hardest.notes)),
      outside: Math.round(100 * rate(elsewhere)),
    }),
  };
};
