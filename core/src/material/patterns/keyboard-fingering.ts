import type { Hand } from '../../schema/notation';

/**
 * The degree (from 0) on which the fourth finger falls, by the tonic's semitones above C: in every octave the thumb goes under after it
 * and, three notes later, once more. Standard fingerings of keyboard scales (common practice, from memory; handbooks differ for a few
 * minor keys of many signs).
 */
const FOURTH_FINGER: Record<'major' | 'minor', Record<Hand, readonly number[]>> = {
  //               C  Db D  Eb E  F  Gb G  Ab A  Bb B
  major: {
    right: [6, 5, 6, 4, 6, 3, 2, 6, 1, 6, 0, 6],
    left: [1, 3, 1, 3, 1, 1, 0, 1, 3, 1, 3, 4],
  },
  minor: {
    right: [6, 1, 6, 4, 6, 3, 1, 6, 1, 6, 0, 6],
    left: [1, 3, 1, 2, 1, 1, 0, 1, 3, 1, 5, 4],
  },
};

/** The fingers of an octave from the fourth on, upwards. */
const AFTER_FOURTH: Record<Hand, readonly number[]> = { right: [4, 1, 2, 3, 1, 2, 3], left: [4, 3, 2, 1, 3, 2, 1] };

/**
 * The finger for a degree of a scale that goes from one degree up to another: at the ends, where no thumb has to go under, the outer hand
 * is used.
 *
 * @param tonic in semitones above C
 * @param ends the lowest and the highest degree that is played
 */
export const keyboardFinger = (
  mode: 'major' | 'minor',
  tonic: number,
  hand: Hand,
  degree: number,
  [lowest, highest]: readonly [number, number],
): number => {
  const fourth = FOURTH_FINGER[mode][hand][tonic] as number;
  const inside = (at: number) => AFTER_FOURTH[hand][(((at - fourth) % 7) + 7) % 7] as number;
  const finger = inside(degree);
  if (hand === 'right' && degree === highest && finger === 1) return inside(degree - 1) + 1;
  if (hand === 'right' && degree === lowest && finger === 4) return 2;
  if (hand === 'left' && degree === lowest && finger === 1) return inside(degree + 1) + 1;
  return finger;
};
