import type { RunBlock, SessionRun } from '../schema/block-run';
import { type PracticeConfig, type PracticeConfigKey, practiceConfigId } from '../schema/practice-config';
import { MINUTE_MS } from '../time/units';
import type { LoopEnd } from './loop-state';

/** A break before a block is time that is not yet spent in it. */
const restBeforeMs = (block: RunBlock | undefined): number => 0 - (block?.restMin ?? 0) * MINUTE_MS;

/** Begins a run with its first block. */
export const beginRun = (blocks: readonly RunBlock[], nowMs: number): SessionRun => ({
  blocks: [...blocks],
  index: 0,
  beganAtMs: nowMs,
  spentMs: restBeforeMs(blocks[0]),
  resumedAtMs: nowMs,
});

/** A run that was begun longer ago is another day's. */
const LASTS_MS = 12 * 60 * MINUTE_MS;

/** Whether a run that was kept is still to be gone on with. */
export const isOfToday = ({ beganAtMs }: SessionRun, nowMs: number): boolean => nowMs - beganAtMs < LASTS_MS;

/** The block at work. */
export const runBlock = ({ blocks, index }: SessionRun): RunBlock => blocks[Math.min(index, blocks.length - 1)] as RunBlock;

/** What comes after it; null for the last one. */
export const blockAfter = ({ blocks, index }: SessionRun): RunBlock | null => blocks[index + 1] ?? null;

const spentBy = ({ spentMs, resumedAtMs }: SessionRun, nowMs: number): number =>
  spentMs + (resumedAtMs === null ? 0 : Math.max(0, nowMs - resumedAtMs));

/** What is left of the time box, not under 0. */
export const leftMs = (run: SessionRun, nowMs: number): number =>
  Math.max(0, runBlock(run).minutes * MINUTE_MS - Math.max(0, spentBy(run, nowMs)));

/** What is left of the break before the block at work; 0 where there is none, or it is over. */
export const restLeftMs = (run: SessionRun, nowMs: number): number => Math.max(0, -spentBy(run, nowMs));

/** Holds the time. */
export const pauseRun = (run: SessionRun, nowMs: number): SessionRun =>
  run.resumedAtMs === null ? run : { ...run, spentMs: spentBy(run, nowMs), resumedAtMs: null };

/** Lets the time go on. */
export const resumeRun = (run: SessionRun, nowMs: number): SessionRun =>
  run.resumedAtMs === null ? { ...run, resumedAtMs: nowMs } : run;

/** On to the next block; null after the last one. */
export const nextInRun = (run: SessionRun, nowMs: number): SessionRun | null =>
  run.index + 1 < run.blocks.length
    ? { ...run, index: run.index + 1, spentMs: restBeforeMs(run.blocks[run.index + 1]), resumedAtMs: nowMs }
    : null;

/** Whether a configuration is the one at work. */
export const isAtWork = (run: SessionRun | null, config: PracticeConfigKey): boolean =>
  run !== null && practiceConfigId(runBlock(run).config) === practiceConfigId(config);

/**
 * What the end of a take means for a run: on to the next block, a pause for the player to
 * say more, or its end. Pain ends everything.
 */
export const afterTakeInRun = (run: SessionRun, ended: LoopEnd, nowMs: number): 'next' | 'pause' | 'end' => {
  if (ended === 'pain') return 'end';
  if (ended === 'stopped' || ended === 'input-lost') return leftMs(run, nowMs) > 0 ? 'pause' : 'next';
  return 'next';
};

/** Played by the player's own hand on the tempo: what is slow on purpose, a warm-up, or music, has no strategy that raises. */
const WITHOUT_STRATEGY = 'free';

/**
 * A configuration as a block has it practised: by the block's methods where it names some, alone; what is not played to get on is straight and
 * free, and only music goes along with a recording.
 */
export const configForBlock = (
  config: PracticeConfig,
  { purpose, uses }: Pick<RunBlock, 'purpose' | 'uses'>,
): PracticeConfig => {
  const [first, second] = uses;
  if (first)
    return {
      ...config,
      playAlong: null,
      methodId: first.id,
      alsoMethodId: second?.id ?? null,
      methodParameters: {
        ...config.methodParameters,
        ...Object.fromEntries(uses.map(({ id, parameters }) => [id, parameters])),
      },
    };
  if (purpose === 'work') return config;
  const playAlong = purpose === 'musical' ? config.playAlong : null;
  return { ...config, playAlong, methodId: 'straight', alsoMethodId: null, strategyId: WITHOUT_STRATEGY };
};
