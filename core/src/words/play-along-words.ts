import { type CodesOf, type Dictionary, maybe, number, say, text } from './reader';

const ms = (value: number) => `${value.toFixed(1)} ms`;

const speed = ({ pct, title }: { pct: number; title: string }): string => {
  return `Along with “${title}”${pct === 100 ? ' at its own speed' : ` at ${pct} % of its speed`}.`;
};

const uneven = (values: { pct: number; title: string; ms: number }): string =>
  `${speed(values)} Its own beats lie ${ms(values.ms)} off an even pulse there; the tolerance is wider by that.`;

/** What a recording's own beats have to do with what was measured against them. */
export const PLAY_ALONG_WORDS = {
  'along-even': say({ pct: number, title: text }, (values) => `${speed(values)} Its beats are as even there as a click.`),
  'along-with': say(
    { spread: number, pct: number, title: text, ms: number },
    (values) => `${uneven(values)} You went with them: the spread against them is ${ms(values.spread)}.`,
  ),
  along: say({ spread: maybe, own: maybe, pct: number, title: text, ms: number }, (values) => {
    const [spread, own] = [values.spread, values.own];
    const said = uneven(values);
    if (spread === null || own === null) return said;
    return own > 0
      ? `${said} Of a spread of ${ms(spread)} at least ${ms(own)} are yours.`
      : `${said} All of a spread of ${ms(spread)} may be the recording’s.`;
  }),
} satisfies Dictionary;

declare module '../schema/reason' {
  interface ReasonCatalogue extends CodesOf<'play along', typeof PLAY_ALONG_WORDS> {}
}
