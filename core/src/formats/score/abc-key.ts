import { STEPS } from '../../rhythm/pitch';
import type { Pitch } from '../../schema/notation';
import { keyAlters } from './pitch-spelling';

/** What a key signature does: how each step is altered, and the usual signature that is nearest to it, which is drawn. */
export interface AbcKey {
  alters: Record<Pitch['step'], number>;
  fifths: number;
}

/** How far each accidental of the package alters. */
export const ACCIDENTALS: Record<string, number> = { sharp: 1, flat: -1, natural: 0, dblsharp: 2, dblflat: -2 };
/** The usual signatures, the plainest first. */
const SIGNATURES = [0, 1, -1, 2, -2, 3, -3, 4, -4, 5, -5, 6, -6, 7, -7];

/**
 * A key by the accidentals of its signature, also one that no major key has (`K:D Phr ^F`). Highland pipes (`K:HP`) show none and sound F
 * and C sharp. Source: the ABC music standard 2.1, 4.6.
 */
export const abcKey = (accidentals: readonly { acc: string; note: string }[] = [], root = ''): AbcKey => {
  const alters = keyAlters(root === 'HP' ? 2 : 0);
  for (const { acc, note } of accidentals) {
    const step = note.toUpperCase() as Pitch['step'];
    if (step in alters) alters[step] = ACCIDENTALS[acc] ?? 0;
  }
  const differing = (fifths: number) => {
    const usual = keyAlters(fifths);
    return STEPS.filter((step) => usual[step] !== alters[step]).length;
  };
  return { alters, fifths: SIGNATURES.reduce((best, one) => (differing(one) < differing(best) ? one : best)) };
};
