import type { Family } from './families';

/** What is known beforehand of a kind of instrument: it chooses parameters, never another way of working. */
export interface Profile {
  id: string;
  name: string;
  about: string;
  /** The family whose attacks are expected; null where no sound is analysed, or nothing is known. */
  family: Family | null;
  /** Whether its notes have a pitch that can be checked. */
  hasPitch: boolean;
  /** Whether it says itself which notes were played, so that a wrong one is sure. */
  sendsPitch?: boolean;
  /** How much later than its physical onset a note is heard to begin, in ms; belongs to placement only. */
  attackDelayMs: number;
  /** The detector's own timing noise (standard deviation, ms), from the benchmark in docs/figures.md. */
  noiseSdMs: number;
}

/**
 * Every profile. To add one, add it here. Attack delays are common practice, from memory: struck and plucked sounds are
 * heard where they begin, bowed and blown ones 10 to 30 ms later.
 */
const PROFILES: readonly Profile[] = [
  {
    id: 'struck',
    name: 'Struck keys or bars',
    about: 'Piano, marimba, vibraphone.',
    family: 'struck',
    hasPitch: true,
    attackDelayMs: 0,
    noiseSdMs: 0.5,
  },
  {
    id: 'plucked',
    name: 'Plucked strings',
    about: 'Guitar, harp, pizzicato.',
    family: 'plucked',
    hasPitch: true,
    attackDelayMs: 0,
    noiseSdMs: 1.3,
  },
  {
    id: 'bowed',
    name: 'Bowed strings',
    about: 'Violin, viola, cello, bass with the bow.',
    family: 'bowed',
    hasPitch: true,
    attackDelayMs: 20,
    noiseSdMs: 2.4,
  },
  {
    id: 'blown',
    name: 'Woodwind',
    about: 'Flute, clarinet, saxophone, recorder.',
    family: 'blown',
    hasPitch: true,
    attackDelayMs: 10,
    noiseSdMs: 1.1,
  },
  {
    id: 'brass',
    name: 'Brass',
    about: 'Trumpet, horn, trombone, tuba.',
    family: 'brass',
    hasPitch: true,
    attackDelayMs: 10,
    noiseSdMs: 1.6,
  },
  {
    id: 'drum',
    name: 'Drums',
    about: 'Drums, pads, wood blocks: no pitch.',
    family: 'drum',
    hasPitch: false,
    attackDelayMs: 0,
    noiseSdMs: 0,
  },
  {
    id: 'voice',
    name: 'Voice or hands',
    about: 'Spoken or sung syllables, clapping.',
    family: 'voice',
    hasPitch: false,
    attackDelayMs: 0,
    noiseSdMs: 0.5,
  },
  {
    id: 'midi',
    name: 'MIDI instrument',
    about: 'Timing, pitch and touch come from the instrument itself.',
    family: null,
    hasPitch: true,
    sendsPitch: true,
    attackDelayMs: 0,
    noiseSdMs: 1,
  },
  {
    id: 'tap',
    name: 'Tapping',
    about: 'A key, a screen or a pad.',
    family: null,
    hasPitch: false,
    attackDelayMs: 0,
    noiseSdMs: 2,
  },
  {
    id: 'any',
    name: 'Not said',
    about: 'The detector makes no assumption.',
    family: null,
    hasPitch: false,
    attackDelayMs: 0,
    noiseSdMs: 0.7,
  },
];

/** Whether an instrument is heard as sound. */
export const isHeard = ({ family, id }: Profile): boolean => family !== null || id === 'any';

/** The profiles of instruments that are heard as sound, for a player to choose from. */
export const HEARD_PROFILES: readonly Profile[] = PROFILES.filter(isHeard);

/** The profile of an id; "not said" where there is none. */
export const profileOf = (id: string): Profile => PROFILES.find((profile) => profile.id === id) ?? (PROFILES.at(-1) as Profile);
