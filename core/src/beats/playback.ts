import type { PlayAlong } from '../schema/grid';
import { ownBpmOf } from '../time/drill-tempo';
import type { RepetitionPlan } from '../time/repetition-plan';
import { headlineBpm } from '../time/tempo-map';

/** A recording that sounds: from which place of it, since when on the audio clock, how fast, and what of it is repeated. */
export interface Playback {
  atS: number;
  fromS: number;
  /** Share of its own speed. */
  rate: number;
  loop: { fromS: number; toS: number } | null;
}

/** The place of the recording, in seconds of it, that sounds at a moment of the audio clock. */
export const placeAt = ({ atS, fromS, rate, loop }: Playback, nowS: number): number => {
  const place = fromS + Math.max(0, nowS - atS) * rate;
  if (!loop || place < loop.toS) return place;
  return loop.fromS + ((place - loop.toS) % (loop.toS - loop.fromS));
};

/** The moments of the audio clock, ascending, at which beats of the recording sound between two moments, and which beats. */
export const beatsPassing = (
  playback: Playback,
  timesS: readonly number[],
  fromS: number,
  toS: number,
): { beat: number; timeS: number }[] => {
  const { atS, rate, loop } = playback;
  const passing: { beat: number; timeS: number }[] = [];
  const collect = (placeS: number, endS: number, sinceS: number) => {
    timesS.forEach((beatS, beat) => {
      if (beatS < placeS || beatS >= endS) return;
      const timeS = sinceS + (beatS - placeS) / rate;
      if (timeS >= fromS && timeS < toS) passing.push({ beat, timeS });
    });
  };
  collect(playback.fromS, loop?.toS ?? Number.POSITIVE_INFINITY, atS);
  if (!loop) return passing;
  const roundS = (loop.toS - loop.fromS) / rate;
  const loopsAtS = atS + (loop.toS - playback.fromS) / rate;
  for (let round = Math.max(0, Math.floor((fromS - loopsAtS) / roundS)); loopsAtS + round * roundS < toS; round += 1)
    collect(loop.fromS, loop.toS, loopsAtS + round * roundS);
  return passing;
};

/** How a recording sounds under a repetition: its beats on the repetition's, from the downbeat on, or from a pickup before it. */
export const playbackOf = (
  playAlong: PlayAlong,
  { tempo, downbeatS, notes }: Pick<RepetitionPlan, 'tempo' | 'downbeatS' | 'notes'>,
): Playback => {
  const rate = headlineBpm(tempo) / ownBpmOf(playAlong);
  const placeS = playAlong.timesS[0] as number;
  const leadS = Math.min(Math.max(0, downbeatS - (notes[0]?.timeS ?? downbeatS)), placeS / rate);
  return { atS: downbeatS - leadS, fromS: placeS - leadS * rate, rate, loop: null };
};
