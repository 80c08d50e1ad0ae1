import type Fraction from 'fraction.js';
import { beats } from '../../schema/beats';

/** Divisions of a beat that played notes are set to, and how much farther off a finer one must bring them to be taken. */
const DIVISIONS = [1, 2, 3, 4, 6, 8] as const;
const COST = 0.012;

/**
 * Played positions (in beats) at the nearest places of a grid that fits each beat: the coarsest division in which the notes of the beat
 * lie well, a finer one where it brings them clearly nearer. Positions stay in order; two notes of one beat that fall on the same place
 * are taken as struck together only where they were within a twentieth of a beat.
 */
export const quantised = (positions: readonly number[]): Fraction[] => {
  const placed = new Map<number, Fraction>();
  const byBeat = new Map<number, number[]>();
  positions.forEach((position, k) => {
    // A note just before a beat belongs to it.
    const beat = Math.floor(position + 0.0625);
    byBeat.set(beat, [...(byBeat.get(beat) ?? []), k]);
  });
  for (const [beat, members] of byBeat) {
    const inside = members.map((k) => (positions[k] as number) - beat);
    const apart = inside.slice(1).some((one, n) => one - (inside[n] as number) > 0.05);
    let best: { cost: number; division: number } | null = null;
    for (const division of DIVISIONS) {
      const places = inside.map((one) => Math.round(one * division));
      const off = Math.sqrt(
        inside.reduce((sum, one, n) => sum + (one - (places[n] as number) / division) ** 2, 0) / inside.length,
      );
      const merges =
        apart &&
        places.slice(1).some((place, n) => place === places[n] && (inside[n + 1] as number) - (inside[n] as number) > 0.05);
      const cost = off + COST * division + (merges ? 1 : 0);
      if (!best || cost < best.cost) best = { cost, division };
    }
    const division = best?.division ?? 1;
    members.forEach((k, n) => {
      placed.set(
        k,
        beats(Math.round((inside[n] as number) * division))
          .div(division)
          .add(beat),
      );
    });
  }
  return positions.map((_, k) => placed.get(k) as Fraction);
};
