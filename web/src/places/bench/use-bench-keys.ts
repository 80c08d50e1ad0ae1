import { BENCH_ACTIONS, type BenchAction } from '@isochron/core/schema';
import { useEffect, useMemo, useRef } from 'react';
import { useSettings } from '../../api/settings';
import { type KeyMap, usePageKeys } from '../../app/use-page-keys';
import { listenForCodes } from '../../audio/midi-commands';

/** The usual keys of each action. Foot pedals mostly send the page keys. */
export const USUAL_KEYS: Record<BenchAction, readonly string[]> = {
  begin: ['Enter', 'PageDown'],
  stop: ['Escape', 'PageUp'],
  again: ['a'],
  faster: ['ArrowUp'],
  slower: ['ArrowDown'],
  easy: ['1'],
  working: ['2'],
  tense: ['3'],
  pain: ['0'],
  next: ['n'],
  before: ['p'],
  finish: ['r'],
  afterBreak: ['b'],
};

/** A code of a MIDI instrument, not a key of the computer. */
export const isMidiCode = (key: string): boolean => /^(midi|pedal) \d+$/.test(key);

export type BenchActs = Partial<Record<BenchAction, () => void>>;

/** What the keys, pedals and MIDI keys do on a page of the Bench: the usual ones, and the player's own. */
export const useBenchKeys = (acts: BenchActs): void => {
  const { settings } = useSettings();
  const { keys: own } = settings;
  const keys = useMemo(
    (): KeyMap =>
      // The player's own come last: they hold where a usual one is the same.
      Object.fromEntries(
        [(action: BenchAction) => USUAL_KEYS[action], (action: BenchAction) => own[action] ?? []].flatMap((keysOf) =>
          BENCH_ACTIONS.flatMap((action) => {
            const act = acts[action];
            const names = [keysOf(action)].flat().filter((name) => !isMidiCode(name));
            return act ? names.map((name) => [name, act] as const) : [];
          }),
        ),
      ),
    [acts, own],
  );
  usePageKeys(keys);

  const now = useRef(acts);
  now.current = acts;
  const codes = JSON.stringify(Object.entries(own).filter(([, key]) => isMidiCode(key)));
  useEffect(() => {
    const actions = new Map((JSON.parse(codes) as [BenchAction, string][]).map(([action, code]) => [code, action]));
    if (actions.size === 0) return;
    return listenForCodes((code) => {
      const action = actions.get(code);
      if (action) now.current[action]?.();
    });
  }, [codes]);
};
