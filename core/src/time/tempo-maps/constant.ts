import type { TempoMapDocument } from '../../schema/tempo';
import type { TempoMap } from '../tempo-map';

/** One tempo throughout: time = 60 · beat / bpm. */
export const openConstant = ({ bpm }: Extract<TempoMapDocument, { kind: 'constant' }>): TempoMap => {
  const beatS = 60 / bpm;
  return { timeOf: (beat) => beat * beatS, beatOf: (timeS) => timeS / beatS, tempoAt: () => bpm, headlineBpm: bpm };
};
