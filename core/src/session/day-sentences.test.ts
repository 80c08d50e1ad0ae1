import { expect, it } from 'vitest';
import { SAMPLE_REPETITION } from '../curve/sample-repetition';
import type { TempoCurve } from '../curve/tempo-curve';
import type { PassageRepetitions } from '../schema/api';
import { describeReason } from '../words/describe-reason';
import { daySentences } from './day-sentences';

const CURVE = {
  easy: () => ({ bpm: 80, low: 76, high: 84 }),
  edge: () => ({ bpm: 100, low: 96, high: 104 }),
  cleanChance: () => 0.4,
} as unknown as TempoCurve;
const played = (day: number, bpm: number, part: Partial<PassageRepetitions[number]> = {}): PassageRepetitions[number] => ({
  ...SAMPLE_REPETITION,
  startedAt: `2026-03-0${day}T18:00:00.000Z`,
  bpm,
  ...part,
});
const TRIES = [
  played(1, 70),
  played(2, 76),
  played(2, 80),
  played(2, 96, { outcome: 'not-yet' }),
  played(2, 92),
  played(2, 120, { repetitionKind: 'burst' }),
  played(2, 90, { repetitionKind: 'sweep', breakBpm: 98, breakLow: 95, breakHigh: 101 }),
];

it('says easy, edge, break, what was slow today and what to finish with', () => {
  expect(daySentences(CURVE, TRIES, 105, '2026-03-02').map((one) => describeReason(one, { noteNaming: 'british' }))).toEqual([
    'Easy, clean nine times in ten: about 80 (76 to 84).',
    'The edge, clean every other time: about 100 (96 to 104).',
    'In the last sweep it came apart at about 98 (95 to 101).',
    'Today slow to fast: 2 to 2 repetitions; up to 85 is slow for you.',
    'To finish, once more and loose: at 80.',
  ]);
});

it.each([
  ['America/Los_Angeles', '2026-03-03T03:00:00.000Z'],
  ['Pacific/Auckland', '2026-03-01T12:30:00.000Z'],
])('counts what was played on a day by the calendar of %s', (zone, startedAt) => {
  const before = process.env.TZ;
  process.env.TZ = zone;
  const told = daySentences(null, [{ ...played(2, 70), startedAt }], 120, '2026-03-02');
  if (before === undefined) delete process.env.TZ;
  else process.env.TZ = before;
  expect(told.map(({ code }) => code)).toEqual(['day-slow', 'day-loose']);
});

it('says nothing of what is not known', () => {
  expect(daySentences(null, TRIES, 120, '2026-03-04')).toEqual([]);
  const none = TRIES.map((one) => ({ ...one, outcome: 'not-yet' as const, breakBpm: null }));
  expect(daySentences(null, none, 120, '2026-03-02').map(({ code }) => code)).toEqual(['day-slow']);
});
