import type { CodesOf, Sentence, Values } from './reader';

const ms = (value: number) => `${value.toFixed(1)} ms`;

const speed = (values: Values): string => {
  const pct = values.number('pct');
  return `Along with “${values.text('title')}”${pct === 100 ? ' at its own speed' : ` at ${pct} % of its speed`}.`;
};

const uneven = (values: Values): string =>
  `${speed(values)} Its own beats lie ${ms(values.number('ms'))} off an even pulse there; the tolerance is wider by that.`;

/** What a recording's own beats have to do with what was measured against them. */
export const PLAY_ALONG_WORDS = {
  'along-even': (values) => `${speed(values)} Its beats are as even there as a click.`,
  'along-with': (values) => `${uneven(values)} You went with them: the spread against them is ${ms(values.number('spread'))}.`,
  along: (values) => {
    const [spread, own] = [values.maybe('spread'), values.maybe('own')];
    const said = uneven(values);
    if (spread === null || own === null) return said;
    return own > 0
      ? `${said} Of a spread of ${ms(spread)} at least ${ms(own)} are yours.`
      : `${said} All of a spread of ${ms(spread)} may be the recording’s.`;
  },
} satisfies Record<string, Sentence>;

declare module '../schema/reason' {
  interface ReasonCatalogue extends CodesOf<'play along', typeof PLAY_ALONG_WORDS> {}
}
