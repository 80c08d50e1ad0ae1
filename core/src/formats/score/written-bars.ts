import type Fraction from 'fraction.js';
import { beats } from '../../schema/beats';
import { barStarts } from '../../schema/frame';
import type { MeterChange } from '../../schema/notation';
import type { Passage } from '../../schema/passage';

/** A bar as it is written, with what changes at it. Places in beats from the first downbeat. */
export interface WrittenBar {
  from: Fraction;
  to: Fraction;
  isPickup: boolean;
  /** As the page has it; 0 for a pickup. */
  number: number;
  /** The time signature that is written before it; that of the beginning stands before the first bar, a pickup too. */
  meter: MeterChange | null;
  /** The key signature that is written before it, in fifths. */
  fifths: number | null;
}

/** The bars of a passage in their order, the pickup first. */
export const writtenBars = (passage: Passage): WrittenBar[] => {
  const pickup = beats(passage.pickup);
  const lines = barStarts(passage);
  const hasPickup = pickup.compare(0) > 0;
  const starts = hasPickup ? [pickup.neg(), ...lines] : lines;
  return starts.slice(0, -1).map((from, k): WrittenBar => {
    const isPickup = hasPickup && k === 0;
    // What holds from the first downbeat is written before its pickup.
    const said = k === 0 ? beats(0) : hasPickup && k === 1 ? null : from;
    const place = k - (hasPickup ? 1 : 0);
    const here = <T extends { at: string }>(changes: readonly T[]): T | null =>
      (said && changes.find(({ at }) => beats(at).equals(said))) ?? null;
    return {
      from,
      to: starts[k + 1] as Fraction,
      isPickup,
      number: isPickup ? 0 : (passage.pageBars?.[place] ?? passage.firstBarNumber + place),
      meter: here(passage.meters),
      fifths: here(passage.keys)?.fifths ?? null,
    };
  });
};
