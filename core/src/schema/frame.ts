import type Fraction from 'fraction.js';
import { z } from 'zod';
import { beats } from './beats';
import { FrameShape } from './notation';

const FrameSchema = z.object(FrameShape);
/** Meters, keys and bars: the frame that the notes of a passage or a grid stand in. */
export type Frame = z.infer<typeof FrameSchema>;

/** Beats in one bar of a meter, as an exact fraction of the beat unit: 6/8 in dotted quarters has 2. */
export const meterBeats = (meter: { count: number; unit: number }, beatUnit: string): Fraction =>
  beats(`${meter.count}/${meter.unit}`).div(beats(beatUnit));

/** Where each bar begins, in beats from the first downbeat, and last where the last one ends: `bars` + 1 positions. */
export const barStarts = ({ meters, bars, beatUnit }: Pick<Frame, 'meters' | 'bars' | 'beatUnit'>): Fraction[] => {
  const changes = meters.map((meter) => ({ at: beats(meter.at), length: meterBeats(meter, beatUnit) }));
  const starts = [beats(0)];
  let change = 0;
  for (let bar = 0; bar < bars; bar += 1) {
    const start = starts[bar] as Fraction;
    while (changes[change + 1] && (changes[change + 1] as { at: Fraction }).at.compare(start) <= 0) change += 1;
    starts.push(start.add((changes[change] as { length: Fraction }).length));
  }
  return starts;
};

/** The bar in which a beat lies, as it is played, from 1; a pickup belongs to the first. `lines` is where bars start. */
export const barAt = (lines: readonly Fraction[], beat: number): number =>
  Math.max(1, lines.filter((line) => line.valueOf() <= beat).length);

/** The key at a place, in fifths; before the first one, the first. */
export const fifthsAt = ({ keys }: Pick<Frame, 'keys'>, at: Fraction): number =>
  (keys.findLast((key) => beats(key.at).compare(at) <= 0) ?? keys[0])?.fifths ?? 0;
