import type { readMidiMessage } from '@isochron/core/material';

type Message = NonNullable<ReturnType<typeof readMidiMessage>>;

/** An instrument that shows itself as several ports sends each note over all of them, so close together. */
const SAME_KEY_S = 0.02;

/**
 * Whether a message is to be heard: of a key that comes over several ports the first one, and its release by that port. The same key struck
 * again later, on whatever port, is another note.
 */
export const onceAPort = (): ((message: Message, port: string, timeS: number) => boolean) => {
  const held = new Map<number, { port: string; timeS: number }>();
  return ({ kind, pitch }, port, timeS) => {
    const holder = held.get(pitch);
    // Who struck it last is remembered after the release: an echo may come after a short note.
    if (kind === 'off') return !holder || holder.port === port;
    if (holder && holder.port !== port && Math.abs(timeS - holder.timeS) <= SAME_KEY_S) return false;
    held.set(pitch, { port, timeS });
    return true;
  };
};
