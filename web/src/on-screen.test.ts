import { mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { parseSync, Visitor } from 'vite';
import { describe, expect, it } from 'vitest';

const RESULTS = join(import.meta.dirname, '../../test-results');
/** Two words at least, and none that only a style has. */
const IS_WORDS = /[A-Za-z’'.,:]+ (?:.* )?[A-Za-z’']+/;
const IS_STYLE = /\d(?:px|fr|%|vw|vh)|\b(?:minmax|solid|repeat|calc|var)\b|^[a-z-]+\/[a-z]|^[MLHVCSQTAZ] ?-?\d/;

/** The words of one source that can come to the screen: text between tags, and strings of more than one word; values stand in braces. */
const wordsOf = (source: string, name: string): string[] => {
  const found: string[] = [];
  const add = (text: string) => {
    const words = text.replace(/\s+/g, ' ').trim();
    if (IS_WORDS.test(words) && !IS_STYLE.test(words)) found.push(words);
  };
  const { program } = parseSync(name, source);
  new Visitor({
    JSXElement: ({ children }) => {
      // A sentence that has values in it is read as a whole.
      const text = children.map((child) =>
        child.type === 'JSXText' ? child.value : child.type === 'JSXExpressionContainer' ? '{…}' : '⟨⟩',
      );
      if (children.some(({ type }) => type === 'JSXText')) add(text.join(''));
    },
    Literal: ({ value }) => {
      if (typeof value === 'string') add(value);
    },
    TemplateLiteral: ({ quasis }) => add(quasis.map(({ value }) => value.cooked ?? '').join('{…}')),
  }).visit(program);
  return [...new Set(found)];
};

const listed = readdirSync(import.meta.dirname, { recursive: true, encoding: 'utf8' })
  .filter((name) => /\.tsx?$/.test(name) && !/\.test\.|testing/.test(name))
  .sort()
  .map((name) => ({ name, words: wordsOf(readFileSync(join(import.meta.dirname, name), 'utf8'), name) }))
  .filter(({ words }) => words.length > 0);

describe('the words of the interface', () => {
  it('stand in one file to be read at one go', () => {
    mkdirSync(RESULTS, { recursive: true });
    writeFileSync(
      join(RESULTS, 'on-screen.txt'),
      listed.map(({ name, words }) => `${name}\n${words.map((one) => `  ${one}`).join('\n')}`).join('\n\n'),
    );
    expect(listed.flatMap(({ words }) => words).length).toBeGreaterThan(500);
  });

  it('never shame, and are set as print sets them', () => {
    for (const { name, words } of listed)
      for (const one of words) {
        expect(one, name).not.toMatch(/\b(?:fail|bad|poor|stupid|invalid)/i);
        // An apostrophe, an ellipsis and quotation marks of their own.
        if (name.endsWith('.tsx')) expect(one, name).not.toMatch(/[a-z]'[a-z]|\w\.\.\.|[a-z] "[A-Z]/);
      }
  });
});
