import { describe, expect, it } from 'vitest';
import { passageOfScore } from '../formats/score/score-passage';
import { readText } from '../formats/score/text-read';
import { firstDrill } from '../plan/practice-config';
import { tempoUnitOf, tempoUnits } from './tempo-units';

const gridOf = (text: string) => firstDrill(passageOfScore(readText(text), 'any').passage).grid;
const at = (text: string, bpm: number) =>
  Object.fromEntries(tempoUnits(gridOf(text), 'british').map(({ name, perBeat }) => [name, bpm * perBeat]));

describe('a tempo in other units', () => {
  it('counts note values, bars and notes of crotchets at 90', () => {
    // Arithmetic of note values: a crotchet is two quavers, two thirds of a dotted crotchet; four make this bar.
    expect(at('meter: 4/4\nC4/16 D4 E4 F4 G4/8 F4 E4/4 D4/4 |\n', 90)).toEqual({
      crotchets: 90,
      minims: 45,
      'dotted crotchets': 60,
      'dotted quavers': 120,
      quavers: 180,
      semiquavers: 360,
      bars: 22.5,
      notes: 360,
    });
  });

  it('counts from a dotted beat as well', () => {
    const units = at('meter: 6/8\nbeat: 3/8\nC4/8 D4 E4 F4 G4 A4 |\n', 60);
    expect(units).toMatchObject({ 'dotted crotchets': 60, crotchets: 90, quavers: 180, bars: 30, notes: 180 });
  });

  it('has no bars where the meter changes, and is the beat where the wanted unit is not there', () => {
    const units = tempoUnits(gridOf('meter: 4/4\nC4/4 D4 E4 F4 |\nmeter: 3/4\nC4/4 D4 E4 |\n'), 'american');
    expect(units.map(({ id }) => id)).not.toContain('bar');
    expect(tempoUnitOf(units, 'bar')).toEqual({ id: 'beat', name: 'quarters', perBeat: 1 });
  });
});
