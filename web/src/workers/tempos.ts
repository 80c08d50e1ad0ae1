import { localDay, type PassageRepetitions, type ProgressRepetitions, type Reason } from '@isochron/core/schema';
import {
  type BothSides,
  bothSides,
  bothSidesReason,
  breakReason,
  compareStrategies,
  curveSentences,
  daySentences,
  lastBreak,
  ofPart,
  type Progress,
  progressOf,
  recentRepetitions,
  type StrategyLine,
  strategiesSentence,
  type TempoRange,
  tempoCurve,
  variantsSentence,
} from '@isochron/core/strategy';

/** A variant or a section of a passage, by its ids and its name. */
export interface TempoPart {
  variantId: string;
  sectionId: string;
  name: string;
}

/** The curve of one part, ready to be drawn. */
export interface DrawnCurve {
  part: TempoPart;
  sentences: Reason[];
  easy: TempoRange | null;
  edge: TempoRange | null;
  /** Where the last sweep that broke did so. */
  broke: TempoRange | null;
  /** Days on which it was practised from both sides, and how far the two lie apart. */
  sides: BothSides[];
  sidesWhy: Reason | null;
  /** The unsteadiness as a share of what is allowed, over the tempos that were played. */
  unsteadiness: { bpm: number; share: number }[];
  points: { bpm: number; share: number; isClean: boolean; weight: number }[];
}

/** Strategies are compared over so many of the newest repetitions. */
const COMPARED = 120;
const PLACES = 40;

const drawn = (part: TempoPart, repetitions: PassageRepetitions, goalBpm: number, now: Date) => {
  const own = ofPart(repetitions, part);
  const told = recentRepetitions(own, now);
  const broke = lastBreak(own);
  const sides = bothSides(own);
  const curve = tempoCurve(told);
  const tempos = told.map(({ bpm }) => bpm);
  const [low, high] = [Math.min(...tempos), Math.max(...tempos)];
  const made: DrawnCurve = {
    part,
    sentences: [...curveSentences(curve, told.length, goalBpm), ...(broke ? [breakReason(broke)] : [])],
    easy: curve?.easy() ?? null,
    edge: curve?.edge() ?? null,
    broke,
    sides,
    sidesWhy: bothSidesReason(sides),
    unsteadiness: curve
      ? Array.from({ length: PLACES + 1 }, (_, k) => {
          const bpm = low + ((high - low) * k) / PLACES;
          return { bpm, share: curve.unsteadinessAt(bpm) };
        })
      : [],
    points: told.flatMap(({ bpm, toleranceUsage, isClean, weight }) =>
      toleranceUsage === null ? [] : [{ bpm, share: toleranceUsage, isClean, weight }],
    ),
  };
  return { made, curve };
};

export const tempos = {
  /** The curve of each part, and how the first two variants with an edge differ. */
  curves(parts: readonly TempoPart[], repetitions: PassageRepetitions, goalBpm: number, nowMs: number) {
    const all = parts.map((part) => drawn(part, repetitions, goalBpm, new Date(nowMs)));
    const whole = all.flatMap(({ made, curve }) => (curve && made.edge ? [{ name: made.part.name, curve }] : []));
    const [one, other] = whole;
    return { curves: all.map(({ made }) => made), compared: one && other ? variantsSentence(one, other) : null };
  },
  /** How a part got on over its history. */
  progress: (inStretches: ProgressRepetitions): Progress => progressOf(inStretches),
  /** What a day's practice of a part comes to. */
  day(part: Omit<TempoPart, 'name'>, repetitions: PassageRepetitions, goalBpm: number, nowMs: number): Reason[] {
    const own = ofPart(repetitions, part);
    const now = new Date(nowMs);
    return daySentences(tempoCurve(recentRepetitions(own, now)), own, goalBpm, localDay(now));
  },
  /** What each tempo plan would have asked for after each of the newest repetitions of a part. */
  strategies(
    part: TempoPart,
    repetitions: PassageRepetitions,
    goalBpm: number,
  ): { played: PassageRepetitions; lines: StrategyLine[]; sentence: Reason | null } {
    const own = ofPart(repetitions, part).filter(({ repetitionKind }) => repetitionKind === null);
    const played = own.slice(-COMPARED);
    const lines = compareStrategies(played, goalBpm);
    return { played, lines, sentence: strategiesSentence(lines) };
  },
};
