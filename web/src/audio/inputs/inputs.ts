import type { InputKind } from '@isochron/core/schema';
import type { InputSource } from './input';
import { MICROPHONE } from './microphone';
import { MIDI } from './midi';
import { SIMULATED } from './simulated';
import { TAP } from './tap';

/** Every kind of input. To add one: write its file, add it here and to the schema of input kinds. */
export const INPUTS: readonly InputSource[] = [MICROPHONE, MIDI, TAP, SIMULATED];

/** An input source by its kind. */
export const inputOf = (kind: InputKind): InputSource => INPUTS.find((input) => input.kind === kind) ?? MICROPHONE;
