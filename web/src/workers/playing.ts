import { chance } from '@isochron/core/analysis';
import { pitchesOf, type RepetitionPlan } from '@isochron/core/material';
import type { Drill, GridEvent, Skill } from '@isochron/core/schema';
import {
  atLevel,
  INSTRUMENTS,
  pitchHz,
  renderPlaying,
  renderPulses,
  STRUCK_BAR,
  simulatePlaying,
} from '@isochron/core/simulation';
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
    const played = simulatePlaying(plan.notes, atLevel(skill, drill), plan.tempo, seed);
    const shifted = played.map((note) => ({ ...note, timeS: note.timeS - fromS }));
    const lengthS = Math.max(plan.endS - fromS, ...shifted.map((note) => note.timeS + 0.5));
    if (drill.listen === 'pulses') {
      const pulses = shifted.filter(({ expected }) => expected !== null);
      const hz = pitchHz(pitchesOf(drill.grid.events[0] as GridEvent, drill.grid)[0] ?? 69);
      const wave = renderPulses({ played: pulses, hz, sampleRateHz, lengthS, seed, noiseDb: -66 }) as Float32Array<ArrayBuffer>;
      return transfer({ frame, samples: wave }, [wave.buffer]);
    }
    const samples = renderPlaying({
      played: shifted,
      grid: drill.grid,
      tempo: plan.tempo,
      instrument: INSTRUMENTS.find((instrument) => instrument.id === instrumentId) ?? STRUCK_BAR,
      sampleRateHz,
      lengthS,
      seed: Math.floor(chance(seed).uniform() * 1e9),
      noiseDb: -66,
    }) as Float32Array<ArrayBuffer>;
    return transfer({ frame, samples }, [samples.buffer]);
  },
};
