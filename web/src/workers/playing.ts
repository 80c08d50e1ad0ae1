import {
  chance,
  type Exercise,
  INSTRUMENTS,
  type RepetitionPlan,
  renderPlaying,
  type Skill,
  STRUCK_BAR,
  simulatePlaying,
} from '@isochron/core';

/** Asks for one repetition to be played. */
export interface PlayRequest {
  request: number;
  plan: RepetitionPlan;
  exercise: Exercise;
  skill: Skill;
  instrumentId: string;
  sampleRateHz: number;
  seed: number;
}

/** The repetition as sound, to begin at a frame of the audio clock. */
export interface PlayedSound {
  request: number;
  frame: number;
  samples: Float32Array<ArrayBuffer>;
}

const play = ({ request, plan, exercise, skill, instrumentId, sampleRateHz, seed }: PlayRequest): PlayedSound => {
  // From the count-in on: a room is never quite silent before a note.
  const frame = Math.round(plan.countInStartS * sampleRateHz);
  const fromS = frame / sampleRateHz;
  const played = simulatePlaying(plan.notes, skill, plan.tempoBpm, seed);
  const samples = renderPlaying({
    played: played.map((note) => ({ ...note, timeS: note.timeS - fromS })),
    exercise,
    tempoBpm: plan.tempoBpm,
    instrument: INSTRUMENTS.find((instrument) => instrument.id === instrumentId) ?? STRUCK_BAR,
    sampleRateHz,
    lengthS: plan.endS - fromS,
    seed: Math.floor(chance(seed).uniform() * 1e9),
    noiseDb: -66,
  });
  return { request, frame, samples: samples as Float32Array<ArrayBuffer> };
};

/** Plays a repetition and hands its sound over. */
export const handle = (request: PlayRequest): void => {
  const sound = play(request);
  self.postMessage(sound, { transfer: [sound.samples.buffer] });
};
