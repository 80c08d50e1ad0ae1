import { pitch } from '../rhythm/pitch';
import type { MarkKind, MusicalInstrument } from '../schema/instrument';
import type { Clef } from '../schema/notation';

const made = (
  id: string,
  name: string,
  profileId: string,
  clefs: Clef[],
  [lowest, highest]: [string, string],
  marks: MarkKind[],
  rest: { transposition?: number; strings?: string[] } = {},
): MusicalInstrument => ({
  id,
  name,
  profileId,
  clefs,
  transposition: rest.transposition ?? 0,
  lowest: pitch(lowest),
  highest: pitch(highest),
  strings: (rest.strings ?? []).map((one, k, all) => ({ name: String(all.length - k), pitch: pitch(one) })),
  marks: [...marks, 'sign', 'difficult'],
});

/**
 * Ready instruments of the common families. Ranges as written, transpositions and tunings are common practice, from memory. The first is
 * for whoever plays none of them. To add one, add it here; players add their own in Setup.
 */
export const BUILT_IN_INSTRUMENTS: readonly MusicalInstrument[] = [
  made('any', 'Any instrument', 'any', ['treble'], ['A0', 'C8'], ['finger', 'hand', 'stick', 'stroke', 'string', 'breath']),
  made('piano', 'Piano', 'struck', ['treble', 'bass'], ['A0', 'C8'], ['finger', 'hand']),
  made('marimba', 'Marimba', 'struck', ['treble'], ['C2', 'C7'], ['stick', 'hand']),
  made('vibraphone', 'Vibraphone', 'struck', ['treble'], ['F3', 'F6'], ['stick', 'hand']),
  made('glockenspiel', 'Glockenspiel', 'struck', ['treble'], ['G3', 'C6'], ['stick', 'hand'], { transposition: 24 }),
  made('snare-drum', 'Drum or pad', 'drum', ['percussion'], ['C4', 'C5'], ['stick', 'hand']),
  made('drum-kit', 'Drum kit', 'drum', ['percussion'], ['B1', 'C4'], ['stick', 'hand']),
  made('violin', 'Violin', 'bowed', ['treble'], ['G3', 'A7'], ['finger', 'stroke', 'string'], {
    strings: ['G3', 'D4', 'A4', 'E5'],
  }),
  made('viola', 'Viola', 'bowed', ['alto'], ['C3', 'E6'], ['finger', 'stroke', 'string'], {
    strings: ['C3', 'G3', 'D4', 'A4'],
  }),
  made('cello', 'Cello', 'bowed', ['bass'], ['C2', 'C6'], ['finger', 'stroke', 'string'], {
    strings: ['C2', 'G2', 'D3', 'A3'],
  }),
  made('double-bass', 'Double bass', 'bowed', ['bass'], ['E2', 'G5'], ['finger', 'stroke', 'string'], {
    transposition: -12,
    strings: ['E2', 'A2', 'D3', 'G3'],
  }),
  made('guitar', 'Guitar', 'plucked', ['treble'], ['E3', 'E6'], ['finger', 'string'], {
    transposition: -12,
    strings: ['E3', 'A3', 'D4', 'G4', 'B4', 'E5'],
  }),
  made('bass-guitar', 'Bass guitar', 'plucked', ['bass'], ['E2', 'G5'], ['finger', 'string'], {
    transposition: -12,
    strings: ['E2', 'A2', 'D3', 'G3'],
  }),
  made('banjo', 'Banjo, five strings', 'plucked', ['treble'], ['C4', 'A6'], ['finger', 'string'], {
    transposition: -12,
    // The fifth string is the drone: the highest, beside the lowest.
    strings: ['G5', 'D4', 'G4', 'B4', 'D5'],
  }),
  made('guitar-low-d', 'Guitar, lowest string on D', 'plucked', ['treble'], ['D3', 'E6'], ['finger', 'string'], {
    transposition: -12,
    strings: ['D3', 'A3', 'D4', 'G4', 'B4', 'E5'],
  }),
  made('mandolin', 'Mandolin', 'plucked', ['treble'], ['G3', 'A6'], ['finger', 'string', 'stroke'], {
    strings: ['G3', 'D4', 'A4', 'E5'],
  }),
  made('ukulele', 'Ukulele', 'plucked', ['treble'], ['C4', 'C6'], ['finger', 'string'], { strings: ['G4', 'C4', 'E4', 'A4'] }),
  made('harp', 'Harp', 'plucked', ['treble', 'bass'], ['C1', 'G7'], ['finger', 'hand']),
  made('flute', 'Flute', 'blown', ['treble'], ['C4', 'D7'], ['finger', 'breath']),
  made('piccolo', 'Piccolo', 'blown', ['treble'], ['D4', 'C7'], ['finger', 'breath'], { transposition: 12 }),
  made('recorder', 'Recorder, descant', 'blown', ['treble'], ['C4', 'D6'], ['finger', 'breath'], { transposition: 12 }),
  made('oboe', 'Oboe', 'blown', ['treble'], ['B3', 'G6'], ['finger', 'breath']),
  made('clarinet', 'Clarinet in B flat', 'blown', ['treble'], ['E3', 'C7'], ['finger', 'breath'], { transposition: -2 }),
  made('clarinet-a', 'Clarinet in A', 'blown', ['treble'], ['E3', 'C7'], ['finger', 'breath'], { transposition: -3 }),
  made('bass-clarinet', 'Bass clarinet in B flat', 'blown', ['treble'], ['E3', 'G6'], ['finger', 'breath'], {
    transposition: -14,
  }),
  made('clarinet-e-flat', 'Clarinet in E flat', 'blown', ['treble'], ['E3', 'C7'], ['finger', 'breath'], { transposition: 3 }),
  made('cor-anglais', 'Cor anglais in F', 'blown', ['treble'], ['B3', 'G6'], ['finger', 'breath'], { transposition: -7 }),
  made('alto-flute', 'Alto flute in G', 'blown', ['treble'], ['C4', 'C7'], ['finger', 'breath'], { transposition: -5 }),
  made('bassoon', 'Bassoon', 'blown', ['bass'], ['Bb1', 'E5'], ['finger', 'breath']),
  made('soprano-saxophone', 'Soprano saxophone in B flat', 'blown', ['treble'], ['Bb3', 'F#6'], ['finger', 'breath'], {
    transposition: -2,
  }),
  made('alto-saxophone', 'Alto saxophone in E flat', 'blown', ['treble'], ['Bb3', 'F#6'], ['finger', 'breath'], {
    transposition: -9,
  }),
  made('tenor-saxophone', 'Tenor saxophone in B flat', 'blown', ['treble'], ['Bb3', 'F#6'], ['finger', 'breath'], {
    transposition: -14,
  }),
  made('baritone-saxophone', 'Baritone saxophone in E flat', 'blown', ['treble'], ['A3', 'F#6'], ['finger', 'breath'], {
    transposition: -21,
  }),
  made('trumpet', 'Trumpet in B flat', 'brass', ['treble'], ['F#3', 'C6'], ['finger', 'breath'], { transposition: -2 }),
  made('trumpet-c', 'Trumpet in C', 'brass', ['treble'], ['F#3', 'C6'], ['finger', 'breath']),
  made('flugelhorn', 'Flugelhorn in B flat', 'brass', ['treble'], ['F#3', 'C6'], ['finger', 'breath'], { transposition: -2 }),
  made('horn', 'Horn in F', 'brass', ['treble'], ['F#2', 'C6'], ['finger', 'breath'], { transposition: -7 }),
  made('trombone', 'Trombone', 'brass', ['bass'], ['E2', 'F5'], ['sign', 'breath']),
  made('euphonium', 'Euphonium', 'brass', ['bass'], ['E2', 'Bb4'], ['finger', 'breath']),
  made('tuba', 'Tuba', 'brass', ['bass'], ['D1', 'F4'], ['finger', 'breath']),
];

/** An instrument by its id among the player's own and the ready ones; any instrument where the id is unknown. */
export const instrumentOf = (id: string | undefined, own: readonly MusicalInstrument[] = []): MusicalInstrument =>
  [...own, ...BUILT_IN_INSTRUMENTS].find((one) => one.id === id) ?? (BUILT_IN_INSTRUMENTS[0] as MusicalInstrument);
