import { mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { BUILT_IN_PASSAGES } from '../rhythm/built-in-passages';
import { gridOf } from '../rhythm/grid-of';
import { makeDrill } from '../rhythm/methods/make-drill';
import type { Passage } from '../schema/passage';
import { makeReason, type ReasonCatalogue } from '../schema/reason';
import { VerdictReasonSchema } from '../schema/verdict';
import { DICTIONARIES, describeReason, drillName, SENTENCES } from './describe-reason';

/** Where a run leaves what it made. */
const RESULTS = join(import.meta.dirname, '../../../test-results');
const READER = { noteNaming: 'british' } as const;

const GRID = gridOf(BUILT_IN_PASSAGES[0] as Passage);

/** `makeReason('code'`, and the codes that strategies hand to their answers. */
const GIVEN =
  /\bmakeReason\(\s*'([a-z-]+)'|(?:hold|raise|lower)\([^;]*?'((?:climb|notch|stamina|week|stairs|adaptive|sweep|break|burst|beyond|finish)-(?!the-|by-)[a-z-]+)'/g;

/** Every code that core gives as a reason, read from its sources. */
const codesInCore = (): string[] => {
  const root = join(import.meta.dirname, '..');
  return readdirSync(root, { recursive: true, encoding: 'utf8' })
    .filter((name) => name.endsWith('.ts') && !name.includes('.test.'))
    .flatMap((name) =>
      [...readFileSync(join(root, name), 'utf8').matchAll(GIVEN)].map((match) => (match[1] ?? match[2]) as string),
    );
};

describe('words', () => {
  it('are there for every reason of a verdict, and for every code given anywhere in core', () => {
    for (const code of [...VerdictReasonSchema.options, ...codesInCore()]) expect(Object.keys(SENTENCES)).toContain(code);
    expect(codesInCore().length).toBeGreaterThan(20);
  });

  it('are whole sentences, even where a value is missing', () => {
    for (const code of Object.keys(SENTENCES)) {
      const sentence = describeReason({ code, values: { kind: 'stick', first: 'L', second: 'R' } }, READER);
      expect(sentence).not.toMatch(/undefined|NaN/);
      if (code !== 'notes') expect(sentence, code).toMatch(/^[A-Z0-9].*[.?)]$/);
    }
  });

  it('stand in one file to be read at one go', () => {
    const listed = Object.keys(SENTENCES)
      .sort()
      .map(
        (code) =>
          `${code}: ${describeReason({ code, values: { kind: 'stick', first: 'L', second: 'R', title: 'A passage' } }, READER)}`,
      );
    mkdirSync(RESULTS, { recursive: true });
    writeFileSync(join(RESULTS, 'sentences.txt'), listed.join('\n'));
    expect(listed.length).toBeGreaterThan(150);
    // No two reasons are told apart by their codes alone.
    const texts = listed.map((line) => line.slice(line.indexOf(': ') + 2));
    expect(texts.filter((text, k) => text !== '' && texts.indexOf(text) !== k)).toEqual([]);
  });

  it('never shame', () => {
    expect(
      Object.keys(SENTENCES)
        .map((code) => describeReason({ code, values: {} }, READER))
        .join(' '),
    ).not.toMatch(/fail|bad|error\b.*you|poor|weak/i);
  });

  it('say what an old version said as it was, and nothing of a code that is not known', () => {
    expect(describeReason({ code: 'as-written', values: {}, words: 'Clean: one step up to 65.' }, READER)).toBe(
      'Clean: one step up to 65.',
    );
    expect(describeReason({ code: 'of-a-later-version', values: {} }, READER)).toBe('');
  });

  it('have one sentence for a code: a verdict about accents is never told what an exercise is for', () => {
    const codes = DICTIONARIES.flatMap((dictionary) => Object.keys(dictionary));
    expect(codes.filter((code, k) => codes.indexOf(code) !== k)).toEqual([]);
    expect(describeReason(makeReason('accents', { db: 1.4, asked: 3 }), READER)).toBe(
      'The accents stand out by 1.4 dB; 3.0 dB are asked.',
    );
  });

  it('are asked for by codes that they have: any other does not compile', () => {
    // @ts-expect-error: there is no such code.
    makeReason('acents');
    // @ts-expect-error: one dictionary has it; a second one may not.
    const shared: ReasonCatalogue['accents']['in'] = 'plan';
    expect(shared).toBe('plan');
  });

  it('name the drills of a method by values that its title knows: any other does not compile', () => {
    expect(drillName(makeDrill('around', {}, GRID, { from: 3, to: 9 }), READER)).toBe('Notes 3 to 9');
    expect(drillName(makeDrill('straight', {}, GRID), READER)).toBe('As written');
    // @ts-expect-error: it is called `from`.
    makeDrill('around', {}, GRID, { form: 3, to: 9 });
    // @ts-expect-error: no title without its values.
    makeDrill('around', {}, GRID);
    // @ts-expect-error: no such method has a title.
    makeDrill('arround', {}, GRID, { from: 3, to: 9 });
  });

  it('are given the values that they are made of: a misspelt one, one that lacks, or one too many does not compile', () => {
    // @ts-expect-error: it is called `asked`.
    makeReason('accents', { db: 1.4, askd: 3 });
    // @ts-expect-error: `asked` lacks.
    makeReason('accents', { db: 1.4 });
    // @ts-expect-error: no sentence without its values.
    makeReason('accents');
    // @ts-expect-error: a name where a number is meant.
    makeReason('accents', { db: '1.4', asked: 3 });
    // @ts-expect-error: it is said without a tempo.
    makeReason('accents', { db: 1.4, asked: 3, bpm: 60 });
    // Values that a sentence does without may be left out.
    expect(makeReason('goal', { bpm: 60 })).toEqual({ code: 'goal', values: { bpm: 60 } });
  });

  it('follow the numbers', () => {
    expect(describeReason(makeReason('notes', { missed: 1, extra: 2, wrong: 0 }), READER)).toBe(
      '1 note missed and 2 notes too many.',
    );
    expect(describeReason(makeReason('drift', { pct: -1.24 }), READER)).toBe(
      'The notes ran ahead of the beat by 1.2 % of the tempo.',
    );
    expect(describeReason(makeReason('ask-step', { note: 4, ms: -18.6 }), READER)).toBe(
      'The step from note 4 to the next was about 19 ms too short again and again. Is it that one?',
    );
    expect(
      describeReason(
        makeReason('finding-label-timing', { kind: 'stick', first: 'L', second: 'R', ms: 7, low: 5, high: 9 }),
        READER,
      ),
    ).toBe('Stick L plays 7 ms later than stick R (5 to 9 ms).');
  });
});
