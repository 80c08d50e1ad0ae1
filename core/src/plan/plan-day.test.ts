import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { BUILT_IN_PASSAGES } from '../rhythm/built-in-passages';
import { type BlockOrder, DayPlanSchema, DEFAULT_PLAN } from '../schema/day-plan';
import type { PracticeDay } from '../schema/practice';
import { practiceConfigId } from '../schema/practice-config';
import { makeReason } from '../schema/reason';
import { DEFAULT_SETTINGS } from '../schema/settings';
import { dayAt, dayIndex } from '../time/day';
import { describeReason } from '../words/describe-reason';
import { dayMinutes, SHORT_DAY_MIN } from './day-minutes';
import { addBlock, moveBlock, resizeBlock, skipBlock, swapBlock } from './edit-plan';
import { planDay } from './plan-day';
import type { PlanInput, PlanItem } from './plan-item';
import { newPracticeConfig } from './practice-config';
import { fastMinutes, playedShares } from './slow-budget';

const TODAY = '2026-03-04';
const [passage] = BUILT_IN_PASSAGES;
if (!passage) throw new Error('no passage');

const item = (id: string, part: Partial<PlanItem> & { goalBpm?: number } = {}): PlanItem => ({
  config: { ...newPracticeConfig(passage, DEFAULT_SETTINGS), passageId: id, goalBpm: part.goalBpm ?? 120 },
  title: `Passage ${id}`,
  isMusic: false,
  startBpm: 80,
  bestCleanBpm: 90,
  edgeBpm: null,
  lastDay: '2026-03-01',
  due: null,
  weak: null,
  weakSection: null,
  isWarmUp: false,
  ...part,
});
const due = (inDays: number) => ({ inDays, intervalDays: 3, why: makeReason('due-first', { days: 3 - inDays, interval: 3 }) });
const dayOf = (id: string, day: string, playedS: number, fastS = 0): PracticeDay => ({
  passageId: id,
  variantId: item(id).config.variantId,
  sectionId: 'whole',
  day,
  takes: 1,
  repetitions: 10,
  clean: 5,
  playedS,
  fastS,
  withoutClickS: 0,
  openBpm: null,
  openClean: null,
  bestCleanBpm: 90,
});

const plan = (part: Partial<PlanInput> = {}, settings: Partial<PlanInput['settings']> = {}) =>
  planDay({
    day: TODAY,
    length: { minutes: 40, why: makeReason('day-week', { minutes: 40 }) },
    settings: { ...DEFAULT_PLAN, breakAfterMin: 25, ...settings },
    items: [item('a'), item('b', { isMusic: true })],
    played: [],
    leftOutBefore: [],
    ...part,
  });

const anyPlanInput = (): PlanInput => ({
  day: TODAY,
  length: { minutes: 40, why: makeReason('day-week', { minutes: 40 }) },
  settings: { ...DEFAULT_PLAN, breakAfterMin: 25 },
  items: [item('a', { bestCleanBpm: null, lastDay: '' })],
  played: [],
  leftOutBefore: [],
});

const anyItem = fc.record({
  id: fc.constantFrom('a', 'b', 'c', 'd', 'e', 'f', 'g', 'h'),
  goalBpm: fc.integer({ min: 40, max: 200 }),
  startShare: fc.double({ min: 0.3, max: 1, noNaN: true }),
  bestShare: fc.option(fc.double({ min: 0.3, max: 1.1, noNaN: true })),
  edgeShare: fc.option(fc.double({ min: 0.3, max: 1.3, noNaN: true })),
  isMusic: fc.boolean(),
  lastDay: fc.constantFrom('', '2026-03-03', '2026-02-20', '2026-01-03'),
  dueIn: fc.option(fc.integer({ min: -20, max: 20 })),
  weakNote: fc.option(fc.integer({ min: 1, max: 8 })),
  inSection: fc.boolean(),
  isWarmUp: fc.boolean(),
});
const anyInput = fc
  .record({
    items: fc.uniqueArray(anyItem, { selector: ({ id }) => id, maxLength: 8 }),
    minutes: fc.integer({ min: 0, max: 150 }),
    slowPct: fc.constantFrom(null, 60, 75, 80),
    order: fc.constantFrom<BlockOrder>('serial', 'blocked', 'mixed'),
    capMin: fc.integer({ min: 3, max: 30 }),
    breakAfterMin: fc.constantFrom(0, 15, 25),
    played: fc.array(
      fc.record({
        id: fc.constantFrom('a', 'b', 'c'),
        ago: fc.integer({ min: 0, max: 9 }),
        playedS: fc.integer({ min: 0, max: 1500 }),
        fast: fc.double({ min: 0, max: 1, noNaN: true }),
      }),
      { maxLength: 8 },
    ),
    before: fc.subarray(['a', 'b', 'c', 'd']),
  })
  .map(
    (drawn): PlanInput => ({
      day: TODAY,
      length: { minutes: drawn.minutes, why: makeReason('day-week', { minutes: drawn.minutes }) },
      settings: {
        ...DEFAULT_PLAN,
        slowPct: drawn.slowPct,
        order: drawn.order,
        capMin: drawn.capMin,
        breakAfterMin: drawn.breakAfterMin,
      },
      items: drawn.items.map((one) =>
        item(one.id, {
          goalBpm: one.goalBpm,
          startBpm: Math.max(20, Math.round(one.startShare * one.goalBpm)),
          bestCleanBpm:
            one.bestShare === null || one.lastDay === '' ? null : Math.max(20, Math.round(one.bestShare * one.goalBpm)),
          edgeBpm: one.edgeShare === null ? null : Math.max(40, Math.round(one.edgeShare * one.goalBpm)),
          isMusic: one.isMusic,
          lastDay: one.lastDay,
          due: one.dueIn === null || one.lastDay === '' ? null : due(one.dueIn),
          weak: one.weakNote === null ? null : { note: one.weakNote, of: 16, ms: -12, bar: 2 },
          weakSection: one.inSection
            ? { id: 'bridge', name: 'Bridge', startBpm: Math.max(20, Math.round(one.startShare * one.goalBpm)) }
            : null,
          isWarmUp: one.isWarmUp,
        }),
      ),
      played: drawn.played.map(({ id, ago, playedS, fast }) =>
        dayOf(id, dayAt(dayIndex(TODAY) - ago), playedS, fast * playedS),
      ),
      leftOutBefore: drawn.before.map((id) => practiceConfigId(item(id).config)),
    }),
  );

describe('a day’s plan', () => {
  it('keeps minutes, caps, the slow budget and breaks, names what is due and left out, and is the same for the same input', () => {
    fc.assert(
      fc.property(anyInput, (input) => {
        const made = planDay(input);
        expect(DayPlanSchema.safeParse(made).error).toBeUndefined();
        expect(planDay(input)).toEqual(made);
        const { blocks, leftOut } = made;
        const all = blocks.reduce((sum, one) => sum + one.minutes + one.restMin, 0);
        expect(all).toBeLessThanOrEqual(input.length.minutes);
        expect(new Set(blocks.map(({ id }) => id)).size).toBe(blocks.length);
        const today = (id: string) =>
          input.played
            .filter((one) => one.day === TODAY && practiceConfigId(one) === id)
            .reduce((sum, one) => sum + one.playedS / 60, 0);
        for (const one of input.items) {
          const id = practiceConfigId(one.config);
          // A section's minutes are its passage's.
          const own = blocks.filter(({ config }) => practiceConfigId({ ...config, sectionId: 'whole' }) === id);
          const minutes = own.reduce((sum, { minutes: each }) => sum + each, 0);
          expect(minutes === 0 || minutes + today(id) <= input.settings.capMin).toBe(true);
          const isDue = one.due !== null && one.due.inDays <= 0;
          // Nothing that is due is passed over in silence, and nothing is left out and planned at once.
          const isLeftOut = leftOut.some(({ config }) => practiceConfigId(config) === id);
          if (isDue) expect(own.length > 0 || isLeftOut).toBe(true);
          expect(own.length > 0 && isLeftOut).toBe(false);
        }
        // Fast minutes: whatever begins faster than 85 % of the edge, or within a tenth of the goal where no edge is known.
        const fast = blocks.filter(({ config, startBpm }) => {
          const own = input.items.find(
            (one) => practiceConfigId(one.config) === practiceConfigId({ ...config, sectionId: 'whole' }),
          ) as PlanItem;
          const bpm = startBpm ?? own.startBpm;
          return own.edgeBpm === null ? bpm >= 0.9 * own.config.goalBpm : bpm > 0.85 * own.edgeBpm;
        });
        const breaks = input.settings.breakAfterMin
          ? Math.max(0, Math.ceil(input.length.minutes / (input.settings.breakAfterMin + input.settings.breakMin)) - 1)
          : 0;
        const playing = Math.max(0, Math.floor(input.length.minutes - breaks * input.settings.breakMin));
        const allowed = fastMinutes(playedShares(input.played, TODAY), input.settings.slowPct, playing);
        expect(fast.reduce((sum, one) => sum + one.minutes, 0)).toBeLessThanOrEqual(allowed + 1e-9);
        // Every sentence is whole.
        for (const reason of [...made.whys, ...blocks.map((one) => one.why), ...leftOut.map((one) => one.why)])
          expect(describeReason(reason, { noteNaming: 'british' })).toMatch(/^[^{}]+\.$/);
      }),
      { numRuns: 600 },
    );
  });

  it('what was left out comes first the next day, before what is overdue for longer', () => {
    const items = ['a', 'b', 'c', 'd', 'e', 'f', 'g', 'h'].map((id, k) => item(id, { due: due(-k), bestCleanBpm: 130 }));
    const length = { minutes: 16, why: makeReason('day-week', { minutes: 16 }) };
    const first = plan({ items, length });
    expect(first.leftOut.length).toBeGreaterThan(0);
    const leftOutBefore = first.leftOut.map(({ config }) => practiceConfigId(config));
    const second = plan({ items, length, leftOutBefore });
    const visited = second.blocks.filter(({ kind }) => kind === 'revisit').map(({ config }) => practiceConfigId(config));
    expect(visited.length).toBeGreaterThan(0);
    for (const id of visited.slice(0, leftOutBefore.length)) expect(leftOutBefore).toContain(id);
  });

  it('warms up, works at the edge with a method for the weak step, and ends on music', () => {
    const made = plan({
      items: [item('a', { weak: { note: 4, of: 16, ms: -15 } }), item('b', { isMusic: true, bestCleanBpm: 100 })],
    });
    expect(made.blocks[0]).toMatchObject({ kind: 'warm-up', purpose: 'warm-up', startBpm: 60 });
    const method = made.blocks.find(({ kind }) => kind === 'method');
    expect(method?.uses.map(({ id }) => id)).toEqual(['around', 'long-short']);
    expect(describeReason(method?.why ?? { code: '', values: {} }, { noteNaming: 'british' })).toBe(
      'The step from note 4 to the next was 15 ms too short: in rhythms around it.',
    );
    expect(made.blocks.at(-1)).toMatchObject({ kind: 'musical', purpose: 'musical', startBpm: 85 });
    expect(new Set(made.blocks.map((one) => describeReason(one.why, { noteNaming: 'british' }))).size).toBe(made.blocks.length);
  });

  it('gives the time of fast work to slow work where the week was fast', () => {
    const fast = [item('a', { startBpm: 115, bestCleanBpm: 118 })];
    const free = plan({ items: fast }, { slowPct: null });
    expect(free.blocks.some(({ kind }) => kind === 'slow')).toBe(false);
    const kept = plan({ items: fast, played: [dayOf('a', '2026-03-02', 3600, 3600)] });
    expect(kept.blocks.some(({ kind }) => kind === 'edge')).toBe(false);
    expect(kept.blocks.find(({ kind }) => kind === 'slow')).toMatchObject({ purpose: 'slow', startBpm: 80 });
  });

  it('begins every new passage sooner or later, beside what is at work', () => {
    const items = Array.from({ length: 12 }, (_, k) => item(`p${k}`, k < 5 ? {} : { lastDay: '', bestCleanBpm: null }));
    const begun = new Set<string>();
    for (let day = 0; day < 56; day += 1) {
      const today = dayAt(dayIndex(TODAY) + day);
      const { blocks, leftOut } = plan({ day: today, items });
      const planned = blocks.map(({ config }) => config.passageId);
      for (const { config } of leftOut) expect(planned).not.toContain(config.passageId);
      // What is planned is played.
      for (const one of items)
        if (planned.includes(one.config.passageId)) {
          begun.add(one.config.passageId);
          one.lastDay = today;
        }
    }
    expect(begun.size).toBe(12);
  });

  it('puts a goal whose day is near before what was left for longer', () => {
    const near = item('z', { lastDay: '2026-03-03' });
    const soon = { ...near, config: { ...near.config, goalDay: '2026-03-10' } };
    const items = [item('a'), item('b'), item('c'), item('d'), soon];
    const worked = (some: PlanItem[]) =>
      plan({ items: some })
        .blocks.filter(({ kind }) => kind === 'edge')
        .map(({ config }) => config.passageId);
    expect(worked(items)).toContain('z');
    expect(worked([...items.slice(0, 4), near])).not.toContain('z');
  });

  it('gives half of the work at the edge to the section that the weak step lies in, and says why', () => {
    const weak = { note: 12, of: 32, ms: 15, bar: 2 };
    const bridge = { id: 'bridge', name: 'Bridge', startBpm: 77 };
    const edges = (part: Partial<PlanItem>) =>
      plan({ items: [item('a', { weak, ...part })] }).blocks.filter(({ kind }) => kind === 'edge');
    const [section, whole] = edges({ weakSection: bridge });
    expect(section).toMatchObject({ config: { sectionId: 'bridge' }, title: 'Passage a, Bridge', startBpm: 77 });
    expect(describeReason(section?.why as never, { noteNaming: 'british' })).toBe(
      'The step from note 12 to the next lies in “Bridge”: that by itself first.',
    );
    expect(whole?.config.sectionId).toBe('whole');
    expect(Math.abs((section?.minutes ?? 0) - (whole?.minutes ?? 9))).toBeLessThanOrEqual(1);
    expect(edges({ weakSection: null })).toHaveLength(1);
    expect(edges({ weak: null, weakSection: bridge })).toHaveLength(1);
  });

  it('warms up with what is kept for it, however easy other passages are', () => {
    const items = ['a', 'b', 'c', 'd'].map((id) => item(id, { bestCleanBpm: 120, isWarmUp: id === 'c' }));
    items[2] = item('c', { bestCleanBpm: 70, isWarmUp: true });
    const warm = [0, 1, 2].map((k) => plan({ items, day: dayAt(dayIndex(TODAY) + k) }).blocks[0]);
    expect(warm.map((one) => [one?.kind, one?.config.passageId])).toEqual(Array(3).fill(['warm-up', 'c']));
    // One that was never clean has no tempo to warm up at yet.
    items[2] = item('c', { bestCleanBpm: null, lastDay: '', isWarmUp: true });
    expect(plan({ items }).blocks[0]?.config.passageId).not.toBe('c');
  });

  it('warms up with another passage each day', () => {
    const items = ['a', 'b', 'c', 'd'].map((id) => item(id));
    const warm = [0, 1, 2].map((k) => plan({ items, day: dayAt(dayIndex(TODAY) + k) }).blocks[0]?.config.passageId);
    expect(new Set(warm).size).toBe(3);
  });

  it('puts the weak step and slow work before speed', () => {
    const { blocks } = plan({ items: [item('a', { weak: { note: 3, of: 16, ms: 12 } })] });
    const kinds = blocks.map(({ kind }) => kind);
    expect(kinds.indexOf('method')).toBeGreaterThanOrEqual(0);
    expect(kinds.indexOf('method')).toBeLessThan(kinds.indexOf('edge'));
  });

  it('has breaks in a long day, and none in a short one', () => {
    const items = ['a', 'b', 'c', 'd', 'e'].map((id) => item(id));
    const long = plan({ items, length: { minutes: 60, why: makeReason('day-week', { minutes: 60 }) } });
    expect(long.blocks.filter(({ restMin }) => restMin > 0)).toHaveLength(1);
    expect(plan().blocks.every(({ restMin }) => restMin === 0 || restMin === 5)).toBe(true);
    expect(
      plan({ length: { minutes: 20, why: makeReason('day-week', { minutes: 20 }) } }).blocks.some(({ restMin }) => restMin > 0),
    ).toBe(false);
  });

  it('mixed lets passages take turns, blocked keeps each together', () => {
    const items = [item('a', { weak: { note: 4, of: 16, ms: -15 } }), item('b')];
    const work = (order: BlockOrder) =>
      plan({ items }, { order })
        .blocks.filter(({ kind }) => kind !== 'warm-up')
        .map(({ config }) => config.passageId)
        .join('');
    expect(work('blocked')).toMatch(/^(a+b+|b+a+)$/);
    expect(work('mixed')).toMatch(/^(ab|ba)+a*b*$/);
    expect(work('mixed').length).toBeGreaterThan(2);
  });

  it('is changed block by block, and an unknown block changes nothing', () => {
    const made = plan();
    const [first, second] = made.blocks;
    if (!first || !second) throw new Error('too short');
    expect(
      moveBlock(made, first.id, 1)
        .blocks.map(({ id }) => id)
        .slice(0, 2),
    ).toEqual([second.id, first.id]);
    expect(moveBlock(made, first.id, 99).blocks.at(-1)?.id).toBe(first.id);
    expect(moveBlock(made, 'none', 0)).toBe(made);
    expect(resizeBlock(made, first.id, 2).blocks[0]?.minutes).toBe(first.minutes + 2);
    expect(resizeBlock(made, first.id, -99).blocks[0]?.minutes).toBe(1);
    expect(skipBlock(made, first.id).blocks).toHaveLength(made.blocks.length - 1);
    const other = { config: item('z').config, title: 'Z' };
    expect(swapBlock(made, first.id, other).blocks[0]).toMatchObject({ kind: 'own', title: 'Z', uses: [], startBpm: null });
    const more = addBlock(addBlock(made, { ...other, minutes: 5 }), { ...other, minutes: 5 });
    expect(new Set(more.blocks.map(({ id }) => id)).size).toBe(made.blocks.length + 2);
    expect(DayPlanSchema.safeParse(more).error).toBeUndefined();
  });
});

describe('the minutes of a day', () => {
  // 2026-03-04 is a Wednesday (any calendar).
  const settings = { weekMin: [20, 30, 40, 0, 50, 0, 0] };
  const minutes = (day: string, yesterdayMin: number | null) => dayMinutes(day, settings, () => yesterdayMin);
  it('are those of the week, a little longer after a missed day, and moved to a day of rest', () => {
    expect(minutes(TODAY, 30)).toMatchObject({ minutes: 40, why: { code: 'day-week' } });
    expect(minutes(TODAY, 0)).toMatchObject({ minutes: 50, why: { code: 'day-longer', values: { minutes: 40, more: 10 } } });
    // Before the first day nothing was missed.
    expect(minutes(TODAY, null).minutes).toBe(40);
    expect(minutes('2026-03-05', 0)).toMatchObject({ minutes: 40, why: { code: 'day-moved' } });
    expect(minutes('2026-03-05', 35)).toMatchObject({ minutes: 0, why: { code: 'day-rest' } });
    // A day of rest is not missed.
    expect(minutes('2026-03-06', 0).minutes).toBe(50);
  });

  it('are never none for who comes for the first time, and in the demo', () => {
    for (let k = 0; k < 7; k += 1) {
      const day = dayAt(dayIndex(TODAY) + k);
      for (const always of ['first-day', 'demo'] as const) {
        const length = dayMinutes(day, settings, () => null, always);
        const planned = dayMinutes(day, settings, () => null).minutes;
        expect(length.minutes).toBe(planned || SHORT_DAY_MIN);
        if (planned === 0) expect(length.why.code).toBe(`day-${always}`);
        expect(planDay({ ...anyPlanInput(), day, length }).blocks.length).toBeGreaterThan(0);
      }
    }
  });
});
