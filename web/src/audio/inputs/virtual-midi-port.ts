import { chance } from '@isochron/core/analysis';
import { dbVelocity, pitchesOf, type RepetitionPlan } from '@isochron/core/material';
import type { Drill } from '@isochron/core/schema';
import { atLevel, simulatePlaying } from '@isochron/core/simulation';
import type { InputOptions } from './input';
import { nextSeed } from './next-seed';

/** How settings name the port that ships with the app. */
export const VIRTUAL_PORT_ID = 'virtual';

/** The event by which anything on the page may send bytes to the virtual port: `detail` is the message. */
const VIRTUAL_MIDI_EVENT = 'isochron-midi';

/** Takes a message and the moment it stands for, in seconds on the audio clock. */
type Hear = (bytes: Uint8Array, timeS: number) => void;

/** A port without a device: the simulated player sends real MIDI messages through it. */
export interface VirtualMidiPort {
  listen(hear: Hear): void;
  prepare(plan: RepetitionPlan, drill: Drill): void;
  forget(): void;
  close(): void;
}

const NOTE_ON = 0x90;
const NOTE_OFF = 0x80;
/** Keys are held for this share of the interval. */
const HELD_SHARE = 0.8;
const CHORD_SPREAD_MS = 9;

/** Makes the virtual port of a take. Messages are stamped with the moment they stand for, as a driver does. */
export const virtualMidiPort = ({ engine, settings }: Pick<InputOptions, 'engine' | 'settings'>): VirtualMidiPort => {
  let hear: Hear = () => {};
  let timers: ReturnType<typeof setTimeout>[] = [];
  const sendAt = (timeS: number, bytes: readonly number[]) => {
    const waitMs = Math.max(0, (timeS - engine.nowS()) * 1000);
    timers.push(setTimeout(() => hear(Uint8Array.from(bytes), timeS), waitMs));
  };
  const onEvent = (event: Event) => hear((event as CustomEvent<Uint8Array>).detail, engine.clockTimeS(event.timeStamp));
  window.addEventListener(VIRTUAL_MIDI_EVENT, onEvent);
  const forget = () => {
    for (const timer of timers) clearTimeout(timer);
    timers = [];
  };
  return {
    listen(listener) {
      hear = listener;
    },
    prepare(plan, drill) {
      const { grid } = drill;
      forget();
      const seed = nextSeed(settings.skill);
      const { normal } = chance(seed);
      for (const { timeS, levelDb, expected } of simulatePlaying(
        plan.notes,
        atLevel(settings.skill, drill),
        plan.tempo,
        seed,
      )) {
        const event = grid.events[expected ?? 0];
        const pitches = event ? pitchesOf(event, grid) : [];
        const lengthS = HELD_SHARE * (plan.notes[expected ?? 0]?.intervalS ?? 0.2);
        for (const pitch of pitches.length ? pitches : [60]) {
          const at = timeS + (pitches.length > 1 ? (CHORD_SPREAD_MS * normal()) / 2000 : 0);
          sendAt(at, [NOTE_ON, pitch, dbVelocity(levelDb)]);
          sendAt(at + lengthS, [NOTE_OFF, pitch, 0]);
        }
      }
    },
    forget,
    close() {
      forget();
      window.removeEventListener(VIRTUAL_MIDI_EVENT, onEvent);
    },
  };
};
