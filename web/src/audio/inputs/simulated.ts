import { SETTLED_OFFSET_S } from '@isochron/core';
import type { PlayedSound, PlayRequest } from '../../workers/playing';
import type { InputSource } from './input';

/** The profile of each simulated instrument. */
const PROFILE_OF_INSTRUMENT: Record<string, string> = {
  'struck-bar': 'struck',
  'plucked-string': 'plucked',
  'blown-reed': 'blown',
};

/** The simulated player: plays the plan with the skill chosen in Setup, into the same capture as a microphone. */
export const SIMULATED: InputSource = {
  kind: 'simulated',
  name: 'Simulated player',
  about: 'Plays for you, as well or as badly as you set it. For trying Isochron without an instrument.',
  profileId: ({ instrumentId }) => PROFILE_OF_INSTRUMENT[instrumentId] ?? 'any',
  async open({ engine, settings }) {
    const instrument = engine.openInstrument();
    const worker = new Worker(new URL('../../workers/simulated-player.worker.ts', import.meta.url), { type: 'module' });
    let wanted = 0;
    worker.onmessage = ({ data }: MessageEvent<PlayedSound>) => {
      if (data.request === wanted) instrument.play({ frame: data.frame, samples: data.samples });
    };
    return {
      hearsClicks: false,
      offset: { nearS: 0, reachS: SETTLED_OFFSET_S },
      latencyS: null,
      records: true,
      prepare(plan, exercise) {
        wanted += 1;
        const request: PlayRequest = {
          request: wanted,
          plan,
          exercise,
          skill: settings.skill,
          instrumentId: settings.instrumentId,
          sampleRateHz: engine.sampleRateHz,
          seed: Math.floor(Math.random() * 1e9),
        };
        worker.postMessage(request);
      },
      forget() {
        wanted += 1;
        instrument.forget();
      },
      close() {
        worker.terminate();
        instrument.forget();
      },
    };
  },
};
