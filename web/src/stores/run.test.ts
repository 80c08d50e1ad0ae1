import { ownBlock } from '@isochron/core/planning';
import type { RunBlock } from '@isochron/core/schema';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';

/** The browser's small storage, which may be full or closed. */
const createStorage = () => {
  const kept = new Map<string, string>();
  return {
    kept,
    isFull: false,
    isClosed: false,
    getItem(name: string) {
      if (this.isClosed) throw new DOMException('closed', 'SecurityError');
      return kept.get(name) ?? null;
    },
    setItem(name: string, value: string) {
      if (this.isFull || this.isClosed) throw new DOMException('full', 'QuotaExceededError');
      kept.set(name, value);
    },
    removeItem(name: string) {
      kept.delete(name);
    },
  };
};

const BLOCKS: RunBlock[] = ['five-steps', 'hands-together'].map((passageId) =>
  ownBlock({ config: { passageId, variantId: 'first', sectionId: 'whole' }, title: passageId, minutes: 5 }),
);

let storage: ReturnType<typeof createStorage>;
/** The store as a page finds it that was loaded just now. */
const load = async () => {
  vi.resetModules();
  return import('./run');
};

beforeEach(() => {
  storage = createStorage();
  vi.stubGlobal('localStorage', storage);
  vi.useFakeTimers({ now: Date.UTC(2026, 2, 1, 18) });
});
afterEach(() => {
  vi.unstubAllGlobals();
  vi.useRealTimers();
});

describe('a run of blocks', () => {
  it('goes on after a reload in the block where it was, with the time that was spent', async () => {
    const before = await load();
    before.startRun(BLOCKS);
    before.nextBlock();
    vi.advanceTimersByTime(90_000);
    const { useRun } = await load();
    const { run } = useRun.getState();
    expect(run?.index).toBe(1);
    expect(run?.blocks).toEqual(BLOCKS);
    expect(Date.now() - (run?.resumedAtMs ?? 0)).toBe(90_000);
  });

  it('stands still while it is held', async () => {
    const { startRun, holdRun, goOnRun, useRun } = await load();
    startRun(BLOCKS);
    vi.advanceTimersByTime(60_000);
    holdRun();
    vi.advanceTimersByTime(600_000);
    expect(useRun.getState().run).toMatchObject({ spentMs: 60_000, resumedAtMs: null });
    // Held twice is held once.
    holdRun();
    goOnRun();
    vi.advanceTimersByTime(1000);
    holdRun();
    expect(useRun.getState().run?.spentMs).toBe(61_000);
  });

  it('is over after its last block, and nothing is left of it', async () => {
    const { startRun, nextBlock, holdRun, useRun } = await load();
    startRun(BLOCKS);
    nextBlock();
    nextBlock();
    expect(useRun.getState().run).toBeNull();
    holdRun();
    expect(useRun.getState().run).toBeNull();
    expect((await load()).useRun.getState().run).toBeNull();
  });

  it('that cannot be read is none', async () => {
    for (const broken of [
      '{"state":{"run":{"blocks":[],"index":0,"spentMs":0,"resumedAtMs":null}}}',
      '{"state":7}',
      'no JSON',
      '{}',
    ]) {
      storage.kept.set('isochron-run', broken);
      expect((await load()).useRun.getState().run).toBeNull();
    }
    // One block that is none spoils the run: half of it would not be what was asked for.
    const half = { blocks: [BLOCKS[0], { title: 'x' }], index: 0, spentMs: 0, resumedAtMs: null };
    storage.kept.set('isochron-run', JSON.stringify({ state: { run: half } }));
    expect((await load()).useRun.getState().run).toBeNull();
  });

  it.each(['isFull', 'isClosed'] as const)('runs all the same where the browser keeps nothing (%s)', async (how) => {
    storage[how] = true;
    const { startRun, nextBlock, useRun } = await load();
    startRun(BLOCKS);
    nextBlock();
    expect(useRun.getState().run?.index).toBe(1);
    expect(storage.kept.size).toBe(0);
  });
});
