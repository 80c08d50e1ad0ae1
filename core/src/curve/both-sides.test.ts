import { describe, expect, it } from 'vitest';
import type { PassageRepetitions } from '../schema/api';
import { describeReason } from '../words/describe-reason';
import { bothSides, bothSidesReason, lastBreak } from './both-sides';
import { SAMPLE_REPETITION } from './sample-repetition';

const READER = { noteNaming: 'british' } as const;
const on = (day: number, part: Partial<PassageRepetitions[number]>): PassageRepetitions[number] => ({
  ...SAMPLE_REPETITION,
  startedAt: `2026-03-0${day}T18:00:00.000Z`,
  ...part,
});
const burst = (day: number, bpm: number, outcome: 'clean' | 'not-yet' = 'clean') =>
  on(day, { repetitionKind: 'burst', bpm, outcome });

describe('from both sides', () => {
  const repetitions = [
    on(1, { bpm: 70 }),
    on(1, { bpm: 74 }),
    on(1, { bpm: 90, outcome: 'not-yet' }),
    burst(1, 130),
    burst(1, 134),
    burst(1, 150, 'not-yet'),
    on(2, { bpm: 76 }),
    on(3, { bpm: 82 }),
    burst(3, 126),
  ];

  it('takes the fastest clean tempo and the middle of the even bursts, on days that have both', () => {
    expect(bothSides(repetitions)).toEqual([
      { day: '2026-03-01', structuredBpm: 74, burstBpm: 132 },
      { day: '2026-03-03', structuredBpm: 82, burstBpm: 126 },
    ]);
  });

  it('is said with the numbers of the first day and the last', () => {
    const sentence = (days: number) =>
      describeReason(bothSidesReason(bothSides(repetitions).slice(0, days)) ?? { code: '', values: {} }, READER);
    expect(sentence(1)).toBe('Climbed to 74, bursts at 132: 58 apart.');
    expect(sentence(2)).toBe('Climbed to 82, bursts at 126: 44 apart; on the first day it was 58.');
    const met = [burst(4, 80), on(4, { bpm: 80 })];
    expect(describeReason(bothSidesReason(bothSides(met)) ?? { code: '', values: {} }, READER)).toBe(
      'Climbed to 80, bursts at 80: they have met.',
    );
    expect(bothSidesReason([])).toBeNull();
  });
});

it('the last break is that of the newest sweep that broke', () => {
  const swept = (day: number, breakBpm: number | null) =>
    on(day, { repetitionKind: 'sweep', breakBpm, breakLow: breakBpm && breakBpm - 3, breakHigh: breakBpm && breakBpm + 4 });
  expect(lastBreak([swept(1, 90), swept(2, 96), swept(3, null)])).toEqual({ bpm: 96, low: 93, high: 100 });
  expect(lastBreak([on(1, {}), swept(2, null)])).toBeNull();
});
