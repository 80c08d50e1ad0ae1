import { describe, expect, it } from 'vitest';
import { BUILT_IN_PASSAGES } from '../rhythm/built-in-passages';
import { gridOf } from '../rhythm/grid-of';
import { combinedDrills, drillsOf, METHODS, methodOf } from '../rhythm/methods/methods';
import type { Drill } from '../schema/grid';
import type { Passage } from '../schema/passage';
import { forWhom, judgedHow } from './method-facts';

const GRID = gridOf(BUILT_IN_PASSAGES[0] as Passage);
const said = (id: string, parameters = {}) => judgedHow(drillsOf(GRID, id, parameters)[0] as Drill);

describe('what is told of a method before it is chosen', () => {
  it.each([
    ['straight', 'Judged by each note against the click.'],
    ['burst', 'Judged by how even it is at the tempo you play, which may be any.'],
    ['clap-first', 'Judged by each clap against the click; accents do not count.'],
    ['pulses', 'Judged by each wave of pitch against the click; accents do not count.'],
    ['sweep', 'Judged by each note against the click, which changes its tempo; getting faster or slower does not count.'],
    ['touch', 'Judged by each note against the click, and by whether notes are short, where that can be heard.'],
    ['loud-soft', 'Judged by each note against the click, and by whether soft is softer than loud.'],
    ['gaps', 'Judged by each note against the click. How far you are off when the click comes back is shown beside.'],
  ])('%s: how it is judged', (id, sentence) => {
    expect(said(id)).toBe(sentence);
  });

  it('of two methods together says what both ask', () => {
    const [drill] = combinedDrills(GRID, [
      { id: 'sweep', parameters: {} },
      { id: 'touch', parameters: {} },
    ]);
    expect(judgedHow(drill as Drill)).toMatch(
      /which changes its tempo, and by whether notes are short.*getting faster or slower/,
    );
  });

  it('says for whom it is, and that only where it asks something', () => {
    expect(forWhom(methodOf('straight'))).toBe('For every instrument.');
    for (const method of METHODS) expect(forWhom(method) === 'For every instrument.').toBe(method.needs === undefined);
  });
});
