/** A family decides which figures are asked of an instrument. */
export type Family = 'struck' | 'plucked' | 'bowed' | 'blown' | 'brass' | 'drum';

/** A sampled instrument of the General MIDI set. */
export interface SampledInstrument {
  name: string;
  family: Family;
  /** Program number from 0; channel 10 for drums, where `pitches` are drums. */
  program: number;
  isDrum?: boolean;
  pitches: number[];
}

export const SAMPLED: readonly SampledInstrument[] = [
  { name: 'piano', family: 'struck', program: 0, pitches: [41, 48, 55, 60, 64, 69, 76, 84] },
  { name: 'vibraphone', family: 'struck', program: 11, pitches: [55, 60, 65, 69, 74, 79] },
  { name: 'marimba', family: 'struck', program: 12, pitches: [45, 52, 57, 62, 67, 72, 79] },
  { name: 'xylophone', family: 'struck', program: 13, pitches: [67, 72, 77, 81, 86, 91] },
  { name: 'nylon guitar', family: 'plucked', program: 24, pitches: [43, 48, 52, 57, 62, 67, 71] },
  { name: 'steel guitar', family: 'plucked', program: 25, pitches: [43, 48, 52, 57, 62, 67, 71] },
  { name: 'bass guitar', family: 'plucked', program: 33, pitches: [31, 36, 40, 45, 50] },
  { name: 'harp', family: 'plucked', program: 46, pitches: [48, 55, 60, 67, 72, 79] },
  { name: 'violin', family: 'bowed', program: 40, pitches: [58, 62, 67, 71, 76, 81] },
  { name: 'cello', family: 'bowed', program: 42, pitches: [40, 45, 50, 55, 60, 64] },
  { name: 'flute', family: 'blown', program: 73, pitches: [62, 67, 71, 74, 79, 84] },
  { name: 'oboe', family: 'blown', program: 68, pitches: [60, 64, 69, 74, 79] },
  { name: 'clarinet', family: 'blown', program: 71, pitches: [52, 57, 62, 67, 72, 77] },
  { name: 'alto sax', family: 'blown', program: 65, pitches: [52, 57, 62, 67, 72] },
  { name: 'trumpet', family: 'brass', program: 56, pitches: [57, 62, 67, 72, 76] },
  { name: 'trombone', family: 'brass', program: 57, pitches: [43, 48, 53, 58, 62] },
  { name: 'snare', family: 'drum', program: 0, isDrum: true, pitches: [38, 40] },
  { name: 'toms', family: 'drum', program: 0, isDrum: true, pitches: [45, 47, 50] },
  { name: 'wood block', family: 'drum', program: 0, isDrum: true, pitches: [76, 77] },
];
