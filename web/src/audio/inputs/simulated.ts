import { SETTLED_OFFSET_S } from '@isochron/core/analysis';
import { openPlaying } from '../../workers/open-worker';
import type { InputSource } from './input';
import { nextSeed } from './next-seed';

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
  about: 'Plays for you, as evenly or unevenly as you set it. For trying Isochron without an instrument.',
  shows: 'nothing',
  profileId: ({ instrumentId }) => PROFILE_OF_INSTRUMENT[instrumentId] ?? 'any',
  async open({ engine, settings }) {
    const instrument = engine.openInstrument();
    const player = openPlaying();
    let wanted = 0;
    return {
      hearsClicks: false,
      offset: { nearS: 0, reachS: SETTLED_OFFSET_S },
      latencyS: null,
      records: true,
      async prepare(plan, drill) {
        wanted += 1;
        const asked = wanted;
        const { skill, instrumentId } = settings;
        const { sampleRateHz } = engine;
        const sound = await player.ask.play({ plan, drill, skill, instrumentId, sampleRateHz, seed: nextSeed(skill) });
        if (asked === wanted) instrument.play(sound);
      },
      forget() {
        wanted += 1;
        instrument.forget();
      },
      close() {
        player.end();
        instrument.forget();
      },
    };
  },
};
