import type { MusicalInstrument } from '../../schema/instrument';
import type { Passage } from '../../schema/passage';
import { ARPEGGIO } from './arpeggio';
import { FIVE_FINGERS } from './five-fingers';
import type { Pattern } from './pattern';
import { PICKING_ROLL } from './picking-roll';
import { RUDIMENT } from './rudiment';
import { SCALE } from './scale';
import { STICKING } from './sticking';
import { STRING_CROSSING } from './string-crossing';
import { TONGUING } from './tonguing';

/** Every generator of patterns. To add one: write its file, add it here; Material then offers it. */
// biome-ignore lint/suspicious/noExplicitAny: each pattern reads its own parameters.
export const PATTERNS: readonly Pattern<any>[] = [
  SCALE,
  ARPEGGIO,
  FIVE_FINGERS,
  STRING_CROSSING,
  PICKING_ROLL,
  RUDIMENT,
  STICKING,
  TONGUING,
];

/** A generator by its id; scales where the id is unknown. */
export const patternOf = (id: string): Pattern =>
  PATTERNS.find((pattern) => pattern.id === id) ?? (SCALE as unknown as Pattern);

/** The passage that a pattern makes for an instrument. Parameters that cannot be read take their defaults. */
export const makePattern = (id: string, parameters: unknown, instrument: MusicalInstrument): Passage => {
  const pattern = patternOf(id);
  const read = pattern.parameters.safeParse(parameters);
  return pattern.make(read.success ? read.data : pattern.parameters.parse({}), instrument);
};
