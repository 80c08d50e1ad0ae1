import { tapBeats } from '@isochron/core/material';
import type { Accompaniment, BeatsOf } from '@isochron/core/schema';
import { useState } from 'react';

/** The beats of a recording as they are corrected, each step of it to be undone. */
export interface BeatEditing {
  /** The beat at work, counted from 0; null for none. */
  selected: number | null;
  select(beat: number | null): void;
  edit(next: BeatsOf): void;
  /** Null where nothing was changed. */
  undo: (() => void) | null;
  /** Taps so far, in seconds of the recording. */
  taps: readonly number[];
  tap(heardS: number): void;
  takeTaps(): void;
}

/** Corrects the beats of a recording; `change` keeps them. */
export const useBeatEditing = (
  accompaniment: Accompaniment | null | undefined,
  change: (next: Accompaniment) => void,
): BeatEditing => {
  const [past, setPast] = useState<BeatsOf[]>([]);
  const [selected, select] = useState<number | null>(null);
  const [taps, setTaps] = useState<number[]>([]);
  const beats = accompaniment?.beats ?? null;
  const keep = (next: BeatsOf) => {
    if (accompaniment) change({ ...accompaniment, beats: next });
  };
  const edit = (next: BeatsOf) => {
    if (beats) setPast((before) => [...before, beats]);
    keep(next);
  };
  const last = past.at(-1);
  return {
    selected,
    select,
    edit,
    undo: last
      ? () => {
          setPast(past.slice(0, -1));
          keep(last);
        }
      : null,
    taps,
    // Who taps through a loop again means the last round.
    tap: (heardS) => setTaps((before) => (heardS < (before.at(-1) ?? 0) ? [heardS] : [...before, heardS])),
    takeTaps: () => {
      if (beats) edit({ ...beats, timesS: tapBeats(beats.timesS, taps, beats.onsetsS), support: null });
      setTaps([]);
    },
  };
};
