/** What eight weeks of plans come to, each day played as it was planned. */

import { builtInPassage } from '@isochron/core/material';
import {
  dueOf,
  fitForgetting,
  fitPassage,
  newPracticeConfig,
  openingsOf,
  type PlanItem,
  planDay,
} from '@isochron/core/planning';
import {
  DEFAULT_PLAN,
  DEFAULT_SETTINGS,
  dayAt,
  dayIndex,
  makeReason,
  type Passage,
  type PracticeDay,
  practiceConfigId,
} from '@isochron/core/schema';
import { chanceOf } from '../players/random';
import { pct, type Table } from './table';

const DAYS = 56;
const FIRST = dayIndex('2026-01-05');
/** Of the edge; slower is slow. */
const SLOW_SHARE = 0.85;
const passage = builtInPassage('five-steps') as Passage;

interface Eight {
  never: number;
  longestWaitDays: number;
  plannedMin: number;
  /** Of the second month, when edges are known. */
  fastShare: number;
  /** Left out and planned on one day. */
  both: number;
  /** Of the days on which a goal's day was within three weeks, those with its passage. */
  goalShare: number;
}

const eightWeeks = (count: number, minutes: number, seed: number): Eight => {
  const { uniform } = chanceOf(seed, 4);
  const goalBpm = 120;
  const pieces = Array.from({ length: count }, (_, k) => ({
    config: {
      ...newPracticeConfig(passage, DEFAULT_SETTINGS),
      passageId: `piece-${k}`,
      goalBpm,
      goalDay: k === count - 1 ? dayAt(FIRST + 50) : null,
    },
    edgeBpm: 60 + 40 * uniform(),
    lastDay: '',
  }));
  const days: PracticeDay[] = [];
  const seenOn = new Map<string, number[]>();
  let [plannedMin, fastMin, lateMin, both, goalDays, goalPlanned] = [0, 0, 0, 0, 0, 0];
  let leftOutBefore: string[] = [];
  for (let d = 0; d < DAYS; d += 1) {
    const day = dayAt(FIRST + d);
    const player = fitForgetting(openingsOf(days));
    const items = pieces.map(({ config, edgeBpm, lastDay }): PlanItem => {
      const own = days.filter((one) => practiceConfigId(one) === practiceConfigId(config));
      return {
        config,
        title: config.passageId,
        isMusic: false,
        startBpm: Math.round(lastDay === '' ? goalBpm / 2 : 0.95 * edgeBpm),
        bestCleanBpm: lastDay === '' ? null : Math.round(edgeBpm),
        edgeBpm: lastDay === '' ? null : edgeBpm,
        lastDay,
        due: dueOf(own, [], fitPassage([], player), day),
        weak: uniform() < 0.3 && lastDay !== '' ? { note: 3, of: 17, ms: 14, bar: 1 } : null,
        weakSection: null,
        isWarmUp: false,
      };
    });
    const { blocks, leftOut } = planDay({
      day,
      length: { minutes, why: makeReason('day-week', { minutes }) },
      settings: { ...DEFAULT_PLAN, breakAfterMin: DEFAULT_SETTINGS.breakAfterMin },
      items,
      played: days,
      leftOutBefore,
    });
    leftOutBefore = leftOut.map(({ config }) => practiceConfigId(config));
    const planned = new Set(blocks.map(({ config }) => practiceConfigId(config)));
    both += leftOutBefore.filter((id) => planned.has(id)).length;
    const last = pieces.at(-1) as (typeof pieces)[number];
    if (d >= 29 && d <= 50) {
      goalDays += 1;
      if (planned.has(practiceConfigId(last.config))) goalPlanned += 1;
    }
    for (const piece of pieces) {
      const id = practiceConfigId(piece.config);
      const own = blocks.filter(({ config }) => practiceConfigId(config) === id);
      if (own.length === 0) continue;
      seenOn.set(id, [...(seenOn.get(id) ?? []), d]);
      const item = items.find(({ config }) => practiceConfigId(config) === id) as PlanItem;
      const min = own.reduce((sum, one) => sum + one.minutes, 0);
      const fast = own
        .filter(({ startBpm }) => (startBpm ?? item.startBpm) > SLOW_SHARE * piece.edgeBpm)
        .reduce((sum, one) => sum + one.minutes, 0);
      plannedMin += min;
      if (d >= DAYS / 2) {
        fastMin += fast;
        lateMin += min;
      }
      days.push({
        ...piece.config,
        day,
        takes: 1,
        repetitions: 10,
        clean: 7,
        playedS: 60 * min,
        fastS: 60 * fast,
        withoutClickS: 0,
        openBpm: null,
        openClean: null,
        bestCleanBpm: Math.round(piece.edgeBpm),
      });
      piece.lastDay = day;
      piece.edgeBpm = Math.min(goalBpm, piece.edgeBpm * 1.004);
    }
  }
  const waits = [...seenOn.values()].flatMap((on) => on.slice(1).map((d, k) => d - (on[k] as number)));
  return {
    never: count - seenOn.size,
    longestWaitDays: Math.max(...waits),
    plannedMin: plannedMin / DAYS,
    fastShare: fastMin / lateMin,
    both,
    goalShare: goalPlanned / goalDays,
  };
};

export const planTable = (times = 5): Table => ({
  title: 'Eight weeks of plans',
  about: `Every passage new on the first day; each day is played as it was planned, three quarters slow are asked for; ${times} each, the worst of them but for the mean minutes and the mean share at speed. Wanted: none never planned, at most 25 % at speed, nothing left out and planned at once, the passage whose day is near on every day.`,
  head: [
    'passages',
    'minutes a day',
    'never planned',
    'longest wait, days',
    'minutes planned',
    'at speed, second month',
    'left out and planned',
    'days with the near goal',
  ],
  rows: [7, 12, 20].flatMap((count) =>
    [20, 40].map((minutes) => {
      const all = Array.from({ length: times }, (_, k) => eightWeeks(count, minutes, k + 1));
      const most = (of: (one: Eight) => number) => Math.max(...all.map(of));
      const mean = (of: (one: Eight) => number) => all.reduce((sum, one) => sum + of(one), 0) / times;
      return [
        `${count}`,
        `${minutes}`,
        `${most(({ never }) => never)}`,
        `${most(({ longestWaitDays }) => longestWaitDays)}`,
        mean(({ plannedMin }) => plannedMin).toFixed(0),
        pct(mean(({ fastShare }) => fastShare)),
        `${most(({ both }) => both)}`,
        pct(Math.min(...all.map(({ goalShare }) => goalShare))),
      ];
    }),
  ),
});
