import { commonMark } from '../rhythm/grid-shape';
import type { GridEvent } from '../schema/grid';

/** A way to label notes: by hand, by finger … */
export interface LabelKind {
  id: string;
  name: string;
  labelOf(event: GridEvent): string | null;
}

/** Every way to label notes. To add one, add it here. */
export const LABEL_KINDS: readonly LabelKind[] = [
  { id: 'hand', name: 'hand', labelOf: (event) => commonMark(event, 'hand') },
  { id: 'finger', name: 'finger', labelOf: (event) => commonMark(event, 'finger') },
  { id: 'stick', name: 'stick', labelOf: (event) => commonMark(event, 'stick') },
  { id: 'stroke', name: 'stroke', labelOf: (event) => commonMark(event, 'stroke') },
  { id: 'string', name: 'string', labelOf: (event) => commonMark(event, 'string') },
  { id: 'sign', name: 'sign', labelOf: (event) => commonMark(event, 'sign') },
  // Joins, landings and pivots of a drill against each other.
  { id: 'role', name: 'place', labelOf: ({ role }) => role ?? null },
];
