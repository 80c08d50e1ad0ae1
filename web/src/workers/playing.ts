import {
  chance,
  type Drill,
  INSTRUMENTS,
  type RepetitionPlan,
  renderPlaying,
  type Skill,
  STRUCK_BAR,
  simulatePlaying,
} from '@isochron/core';
import { transfer } from 'comlink';

/** Asks for one repetition to be played. */
export interface PlayRequest {
  plan: RepetitionPlan;
  drill: Drill;
  skill: Skill;
  instrumentId: string;
  sampleRateHz: number;
  seed: number;
}

/** The repetition as sound, to begin at a frame of the audio clock. */
export interface PlayedSound {
  frame: number;
  samples: Float32Array<ArrayBuffer>;
}

/** What the page may ask of the playing worker. */
export const playing = {
  play({ plan, drill, skill, instrumentId, sampleRateHz, seed }: PlayRequest): PlayedSound {
    // From the count-in on: a room is never quite silent before a note.
    const frame = Math.round(plan.countInStartS * sampleRateHz);
    const fromS = frame / sampleRateHz;
    const played = simulatePlaying(plan.notes, skill, plan.tempo, seed);
    const samples = renderPlaying({
      played: played.map((note) => ({ ...note, timeS: note.timeS - fromS })),
      grid: drill.grid,
      tempo: plan.tempo,
      instrument: INSTRUMENTS.find((instrument) => instrument.id === instrumentId) ?? STRUCK_BAR,
      sampleRateHz,
      lengthS: plan.endS - fromS,
      seed: Math.floor(chance(seed).uniform() * 1e9),
      noiseDb: -66,
    }) as Float32Array<ArrayBuffer>;
    return transfer({ frame, samples }, [samples.buffer]);
  },
};
