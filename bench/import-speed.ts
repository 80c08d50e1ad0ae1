/**
 * `npm run bench:import-speed`: how long notation takes to be read: a score of 200 bars with chords, tuplets, grace notes, repeats and two
 * voices, in every format, five times each. Prints the table of docs/figures.md.
 */
import { PASSAGE_FORMATS, passageOfScore, readPassageFile, readText } from '@isochron/core/score';

const RUNS = 5;
const BARS = 200;

/** Two voices, chords, triplets and quintuplets, grace notes, ties; every eighth bar repeated with two endings. */
const bigText = (): string => {
  const upper = Array.from({ length: BARS }, (_, bar) => {
    const up = 'CDEFGAB'[bar % 7];
    const notes = `${up}5/16 D E F 3:2[ G5/8 A B ] {A5/16} C5+E5+G5/8( ${up}5/8) 5:4[ C5/16 D E F G ]`;
    const opens = bar % 8 === 0 ? '|: ' : '';
    const closes = bar % 8 === 6 ? ' |1' : bar % 8 === 7 ? ' :|' : ' |';
    return `${opens}${notes}${closes}`;
  });
  const lower = Array.from({ length: BARS }, (_, bar) => `${'CDEFGAB'[bar % 7]}4/4. C4/8~ C4/2 |`);
  return `title: Two hundred bars\nmeter: 4/4\nkey: D\ntempo: 100\n\nstaff 1 voice 1: ${upper.join('\n')}\nstaff 1 voice 2: ${lower.join('\n')}\n`;
};

const text = bigText();
const { passage } = passageOfScore(readText(text), 'big');
console.log(`${passage.bars} bars written out, ${passage.notes.length} notes\n`);
console.log('| format | file | median | worst |\n|---|---:|---:|---:|');
for (const format of PASSAGE_FORMATS) {
  const bytes = format.id === 'text' ? new TextEncoder().encode(text) : format.write(passage);
  const times: number[] = [];
  for (let run = 0; run < RUNS; run += 1) {
    const from = performance.now();
    await readPassageFile(`big${format.endings[0]}`, bytes, 'big');
    times.push(performance.now() - from);
  }
  times.sort((a, b) => a - b);
  const ms = (value: number | undefined) => `${Math.round(value ?? 0)} ms`;
  console.log(`| ${format.name} | ${Math.round(bytes.length / 1000)} kB | ${ms(times[2])} | ${ms(times[4])} |`);
}
