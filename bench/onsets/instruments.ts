import type { Family } from '@isochron/core/analysis';

/** A sampled instrument of the General MIDI set. */
export interface SampledInstrument {
  name: string;
  family: Family;
  /** Program number from 0; channel 10 for drums, where pitches are drums. */
  program: number;
  isDrum?: boolean;
  /** Lowest and highest pitch used; drums list their keys. */
  range: readonly [number, number];
  keys?: readonly number[];
  /** True for instruments that nothing was trained or tuned on. */
  unseen?: boolean;
}

const tuned = (family: Family, name: string, program: number, low: number, high: number): SampledInstrument => ({
  name,
  family,
  program,
  range: [low, high],
});
const unseen = (family: Family, name: string, program: number, low: number, high: number): SampledInstrument => ({
  ...tuned(family, name, program, low, high),
  unseen: true,
});
const drum = (name: string, keys: readonly number[], isUnseen = false): SampledInstrument => ({
  name,
  family: 'drum',
  program: 0,
  isDrum: true,
  range: [0, 0],
  keys,
  unseen: isUnseen,
});

export const SAMPLED: readonly SampledInstrument[] = [
  tuned('struck', 'piano', 0, 36, 88),
  tuned('struck', 'bright piano', 1, 36, 88),
  tuned('struck', 'electric piano', 4, 40, 84),
  tuned('struck', 'celesta', 8, 60, 96),
  tuned('struck', 'glockenspiel', 9, 72, 100),
  tuned('struck', 'vibraphone', 11, 53, 82),
  tuned('struck', 'marimba', 12, 43, 84),
  tuned('struck', 'dulcimer', 15, 48, 84),
  unseen('struck', 'xylophone', 13, 64, 93),
  unseen('struck', 'old piano', 3, 36, 88),
  tuned('plucked', 'nylon guitar', 24, 40, 76),
  tuned('plucked', 'jazz guitar', 26, 40, 76),
  tuned('plucked', 'acoustic bass', 32, 28, 55),
  tuned('plucked', 'bass guitar', 33, 28, 55),
  tuned('plucked', 'harpsichord', 6, 40, 84),
  tuned('plucked', 'banjo', 105, 50, 79),
  tuned('plucked', 'harp', 46, 40, 88),
  tuned('plucked', 'kalimba', 108, 55, 84),
  tuned('plucked', 'pizzicato', 45, 40, 84),
  tuned('plucked', 'sitar', 104, 48, 74),
  unseen('plucked', 'steel guitar', 25, 40, 76),
  unseen('plucked', 'koto', 107, 50, 79),
  unseen('plucked', 'picked bass', 34, 28, 55),
  tuned('bowed', 'violin', 40, 55, 91),
  tuned('bowed', 'cello', 42, 36, 69),
  tuned('bowed', 'fiddle', 110, 55, 88),
  unseen('bowed', 'viola', 41, 48, 81),
  unseen('bowed', 'contrabass', 43, 31, 55),
  tuned('blown', 'flute', 73, 60, 93),
  tuned('blown', 'piccolo', 72, 74, 100),
  tuned('blown', 'oboe', 68, 58, 88),
  tuned('blown', 'clarinet', 71, 50, 86),
  tuned('blown', 'bassoon', 70, 36, 67),
  tuned('blown', 'alto sax', 65, 50, 80),
  tuned('blown', 'baritone sax', 67, 38, 68),
  tuned('blown', 'recorder', 74, 65, 93),
  tuned('blown', 'harmonica', 22, 60, 86),
  tuned('blown', 'pan flute', 75, 60, 90),
  tuned('blown', 'shakuhachi', 77, 60, 86),
  tuned('blown', 'whistle', 78, 65, 93),
  tuned('blown', 'shawm', 111, 58, 84),
  tuned('blown', 'accordion', 21, 50, 86),
  unseen('blown', 'soprano sax', 64, 56, 86),
  unseen('blown', 'cor anglais', 69, 52, 80),
  unseen('blown', 'ocarina', 79, 65, 90),
  tuned('brass', 'trumpet', 56, 54, 82),
  tuned('brass', 'trombone', 57, 40, 70),
  tuned('brass', 'tuba', 58, 30, 55),
  unseen('brass', 'horn', 60, 41, 74),
  unseen('brass', 'muted trumpet', 59, 54, 80),
  tuned('voice', 'choir', 52, 45, 76),
  tuned('voice', 'voice', 53, 45, 76),
  drum('clap', [39]),
  drum('snare', [38]),
  drum('toms', [45, 47, 50]),
  drum('hat and stick', [37, 42]),
  drum('wood block', [76]),
  drum('bongos', [60, 61]),
  drum('low wood block', [77], true),
  drum('congas', [62, 63, 64], true),
  drum('electric snare', [40], true),
];

/** More instruments of the set, for the variety that the ear is trained on; no table shows them. */
export const MORE_TRAINED: readonly SampledInstrument[] = [
  tuned('struck', 'electric grand', 2, 36, 88),
  tuned('struck', 'soft electric piano', 5, 40, 84),
  tuned('struck', 'music box', 10, 60, 96),
  tuned('struck', 'bells', 14, 60, 77),
  tuned('struck', 'timpani', 47, 38, 57),
  tuned('struck', 'steel drums', 114, 52, 76),
  tuned('plucked', 'clavinet', 7, 36, 84),
  tuned('plucked', 'clean guitar', 27, 40, 76),
  tuned('plucked', 'muted guitar', 28, 40, 76),
  tuned('plucked', 'driven guitar', 29, 40, 76),
  tuned('plucked', 'fretless bass', 35, 28, 55),
  tuned('plucked', 'slapped bass', 36, 28, 55),
  tuned('plucked', 'shamisen', 106, 50, 79),
  tuned('bowed', 'strings', 48, 40, 84),
  tuned('blown', 'drawbar organ', 16, 40, 84),
  tuned('blown', 'church organ', 19, 40, 84),
  tuned('blown', 'reed organ', 20, 40, 84),
  tuned('blown', 'bandoneon', 23, 48, 84),
  tuned('blown', 'tenor sax', 66, 44, 75),
  tuned('blown', 'bottle', 76, 60, 84),
  tuned('blown', 'bagpipe', 109, 55, 77),
  tuned('brass', 'brass section', 61, 40, 80),
  drum('kick', [35, 36]),
  drum('cymbals', [49, 51, 53]),
  drum('open hat and tambourine', [46, 54]),
  drum('cowbell and claves', [56, 75]),
  drum('timbales', [65, 66]),
  drum('maracas', [70, 69]),
];

/** Which half of the corpus: what may be tuned on, or what is only reported on. The pitches differ. */
export type Half = 'tuned' | 'held';

/** The pitches of a half: every third semitone, the halves one semitone apart. Drums have the same keys in both. */
export const pitchesOf = ({ range: [low, high], keys }: SampledInstrument, half: Half): readonly number[] => {
  if (keys) return keys;
  const pitches: number[] = [];
  for (let pitch = low + (half === 'tuned' ? 0 : 1); pitch <= high; pitch += 3) pitches.push(pitch);
  return pitches;
};
