import type { MethodUse } from '../schema/grid';
import { makeReason, type Reason } from '../schema/reason';

/** Drills for one spot, and why these. */
export interface SpotDrill {
  uses: MethodUse[];
  why: Reason;
}

/** The few notes around the step that leads to event `index`, counted from 1: two before it and two after. */
export const stretchAround = (index: number, length: number): { from: number; to: number } => ({
  from: Math.max(1, index - 2),
  to: Math.min(length, index + 3),
});

/**
 * What to do about a step that was measured to be unsure: the few notes around it in long and short rhythms, which play it once quick and
 * once with time; note by note up to it; and with the weight on the note that it leads to. `index` is the note that the step leads to (from 0), of `length` notes.
 */
export const drillsForSpot = (length: number, index: number): SpotDrill[] => {
  const { from, to } = stretchAround(index, length);
  const around: MethodUse = { id: 'around', parameters: { from, to } };
  const values = { from: index, to: index + 1 };
  return [
    { uses: [around, { id: 'long-short', parameters: { size: 2 } }], why: makeReason('spot-rhythms', values) },
    { uses: [around, { id: 'add-a-note', parameters: { upTo: to - from + 1 } }], why: makeReason('spot-add', values) },
    {
      uses: [around, { id: 'accents', parameters: { on: 'spot', spot: index + 2 - from } }],
      why: makeReason('spot-accent', values),
    },
  ];
};
