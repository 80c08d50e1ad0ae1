import { MAX_OFFSET_S } from '@isochron/core/analysis';
import type { InputSource } from './input';

/** Nominal level of a tap: keys and screens do not say how hard they were struck. */
const TAP_LEVEL_DB = -20;

/** The event that a tap surface on the page sends, with the page's clock in `detail`. */
export const TAP_EVENT = 'isochron-tap';

/** The space bar or a touch on the pad. */
export const TAP: InputSource = {
  kind: 'tap',
  name: 'Tap pad',
  about: 'The space bar, or a touch on the pad. For trying a rhythm without the instrument.',
  shows: 'notes',
  profileId: () => 'tap',
  async open({ engine, onOnset }) {
    const tapAt = (performanceMs: number) => onOnset({ timeS: engine.clockTimeS(performanceMs), levelDb: TAP_LEVEL_DB });
    const onKey = (event: KeyboardEvent) => {
      if (event.code !== 'Space' || event.repeat) return;
      event.preventDefault();
      tapAt(event.timeStamp);
    };
    const onPad = (event: Event) => tapAt((event as CustomEvent<number>).detail);
    window.addEventListener('keydown', onKey);
    window.addEventListener(TAP_EVENT, onPad);
    return {
      hearsClicks: false,
      offset: { nearS: engine.guessedLatencyS(), reachS: MAX_OFFSET_S },
      latencyS: null,
      records: false,
      prepare: () => {},
      forget: () => {},
      close() {
        window.removeEventListener('keydown', onKey);
        window.removeEventListener(TAP_EVENT, onPad);
      },
    };
  },
};
