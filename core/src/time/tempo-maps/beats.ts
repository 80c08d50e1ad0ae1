import { bisectRight } from 'd3-array';
import type { TempoMapDocument } from '../../schema/tempo';
import { mean } from '../../stats/summary';
import type { TempoMap } from '../tempo-map';

/** The tempo at a place is that of so many beats on either side: a single one says more about its own unsteadiness. */
const AROUND = 4;

/**
 * Beats that someone played. Between two of them time goes straight; before the first and after the last it goes on at the tempo of the
 * beats around there. Named by the mean tempo.
 */
export const openBeats = ({ timesS }: Extract<TempoMapDocument, { kind: 'beats' }>): TempoMap => {
  const steps = timesS.slice(1).map((timeS, k) => timeS - (timesS[k] as number));
  const localS = (step: number) => mean(steps.slice(Math.max(0, step - AROUND), step + AROUND + 1));
  const last = steps.length;
  const [firstS, lastS] = [timesS[0] as number, timesS[last] as number];
  const [beforeS, afterS] = [localS(0), localS(last - 1)];
  return {
    timeOf(beat) {
      if (beat < 0) return firstS + beat * beforeS;
      if (beat > last) return lastS + (beat - last) * afterS;
      const step = Math.min(last - 1, Math.floor(beat));
      return (timesS[step] as number) + (beat - step) * (steps[step] as number);
    },
    beatOf(timeS) {
      if (timeS < firstS) return (timeS - firstS) / beforeS;
      if (timeS > lastS) return last + (timeS - lastS) / afterS;
      const step = Math.min(last, bisectRight(timesS, timeS)) - 1;
      return step + (timeS - (timesS[step] as number)) / (steps[step] as number);
    },
    tempoAt: (beat) => 60 / localS(Math.max(0, Math.min(last - 1, Math.floor(beat)))),
    headlineBpm: (60 * last) / (lastS - firstS),
  };
};
