/**
 * Players who learn, unlike the ones that the strategies were made with: none of them was used to choose a constant. Each says how unsteady it is
 * at a tempo on a day, how it wanders, and how it says that it felt.
 */
import { evenGridNotes } from '@isochron/core/analysis';
import { openTempo } from '@isochron/core/material';
import type { Ease } from '@isochron/core/schema';
import { outcomeOf } from '@isochron/core/simulation';
import { breakTempo, type RepetitionOutcome, sweptNotes } from '@isochron/core/strategy';
import { playerOf } from './players';
import { chanceOf } from './random';

export interface Moment {
  bpm: number;
  /** Repetitions played in all, and on this day. */
  played: number;
  playedToday: number;
  seed: number;
}

export interface OddLearner {
  id: string;
  /** What is unlike others. */
  about: string;
  /** How unsteady a note is, in ms. */
  sdMs(moment: Moment): number;
  /** Whose way of wandering it has (`players.ts`). */
  player?: string;
  /** Every second note is late by so much, in ms. */
  limpMs?: number;
  ease?(moment: Moment): Ease;
}

/** Unsteady by 3 ms up to a tempo, and so many times more for each tenth of it beyond. */
const rising = (bpm: number, easyBpm: number, growth: number, restMs = 3): number =>
  restMs * growth ** Math.max(0, (bpm / easyBpm - 1) / 0.1);
/** What practice gives: much at first, less and less. */
const learnt = (played: number, most = 0.3): number => 1 + most * (1 - Math.exp(-played / 400));
const plain = ({ bpm, played }: Moment): number => rising(bpm, 80 * learnt(played), 1.5);

export const ODD_LEARNERS: readonly OddLearner[] = [
  { id: 'wanders (1/f)', about: '1/f noise', player: 'pink', sdMs: plain },
  { id: 'heavy tails (t3)', about: 'now and then far off', player: 't3', sdMs: plain },
  { id: 'corrects (AR −0.3)', about: 'undoes a part of each error', player: 'ar-', sdMs: plain },
  { id: 'limps', about: 'every second note 6 ms late', limpMs: 6, sdMs: plain },
  {
    id: 'tires',
    about: '1 % a repetition within a day',
    sdMs: ({ bpm, played, playedToday }) => rising(bpm, 80 * learnt(played) * (1 - 0.01 * playedToday), 1.5),
  },
  {
    id: 'distracted one in four',
    about: 'three times as unsteady then',
    sdMs: (moment) => plain(moment) * (chanceOf(moment.seed, 5).uniform() < 0.25 ? 3 : 1),
  },
  {
    id: 'leaps and plateaus',
    about: '8 % better every 80 repetitions, nothing between',
    sdMs: ({ bpm, played }) => rising(bpm, 80 * 1.08 ** Math.floor(played / 80), 1.5),
  },
  {
    id: 'two limits',
    about: 'the hand gets worse slowly from 60, the eye breaks off at 95',
    sdMs: ({ bpm, played }) => Math.max(rising(bpm, 60 * learnt(played, 0.1), 1.15), rising(bpm, 95 * learnt(played, 0.2), 3)),
  },
  { id: 'always “easy”', about: 'says so of everything', sdMs: plain, ease: () => 'easy' },
  { id: 'a floor of 20 ms', about: 'no steadier at any tempo', sdMs: ({ bpm }) => Math.max(20, rising(bpm, 90, 1.5, 20)) },
];

const NOTES = 17;

/** One repetition of sixteenths at a tempo, measured and judged as any other. */
export const oddRepetition = (learner: OddLearner, moment: Moment): RepetitionOutcome => {
  const { bpm, seed } = moment;
  const notes = evenGridNotes({ tempoBpm: bpm, notesPerBeat: 4, beats: NOTES / 4, startS: 0 });
  const sd = learner.sdMs(moment);
  const mostMs = 0.49 * 1000 * (notes[0]?.intervalS ?? 0);
  const deviations = playerOf(learner.player ?? 'independent').deviationsMs({
    timesS: notes.map(({ timeS }) => timeS),
    sdMs: notes.map(() => sd),
    seed,
  });
  const results = notes.map((note, k) => {
    const asked = (deviations[k] as number) + (k % 2 ? (learner.limpMs ?? 0) : 0);
    const deviationMs = Math.max(-mostMs, Math.min(mostMs, asked));
    return { index: k, expectedS: note.timeS, onsetS: note.timeS + deviationMs / 1000, deviationMs, levelDb: -20 };
  });
  return { ...outcomeOf(notes, results, bpm), notes: NOTES, ease: learner.ease?.(moment) ?? 'working' };
};

/** A sweep of so many sixteenths, as `below the break` asks for, and where its evenness is found to break. */
const SWEEP_NOTES = 512;

/** Where a sweep from half of a tempo to one and a half of it is found to come apart; null where it is not. */
export const oddBreak = (learner: OddLearner, moment: Moment): number | null => {
  const tempo = {
    kind: 'ramp' as const,
    points: [
      { beat: 0, bpm: 0.5 * moment.bpm },
      { beat: SWEEP_NOTES / 4, bpm: 1.5 * moment.bpm },
    ],
  };
  const map = openTempo(tempo);
  const expected = Array.from({ length: SWEEP_NOTES }, (_, k) => ({ index: k, beat: k / 4, timeS: map.timeOf(k / 4) }));
  const deviations = playerOf(learner.player ?? 'independent').deviationsMs({
    timesS: expected.map(({ timeS }) => timeS),
    sdMs: expected.map(({ beat }) => learner.sdMs({ ...moment, bpm: map.tempoAt(beat) })),
    seed: moment.seed + 7,
  });
  return (
    breakTempo(
      sweptNotes(
        expected.map(({ index }) => ({ index, deviationMs: deviations[index] as number })),
        expected,
      ),
    )?.bpm ?? null
  );
};
