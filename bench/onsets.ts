/**
 * Onset detection on sampled instruments at known times: `npm run bench:onsets [-- --half tuned|held --aubio]`.
 * Needs Debian's fluidsynth, fluid-soundfont-gm and, with --aubio, aubio-tools. The corpus is split by seed: figures are
 * reported on the half that nothing was tuned on.
 */
import { execFileSync } from 'node:child_process';
import { mkdirSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { detectOnsets, detectOnsetsBesideClicks, writeWav } from '@isochron/core';
import { CONDITIONS, makeRecording, type Recording } from './onsets/corpus';
import { SAMPLED } from './onsets/instruments';
import { RATE, sampledNotes } from './onsets/notes';
import { fMeasure, medianSdMs, type Score, score } from './onsets/score';

const { values } = parseArgs({
  options: {
    half: { type: 'string', default: 'held' },
    aubio: { type: 'boolean' },
    takes: { type: 'string', default: '2' },
    only: { type: 'string' },
  },
});
const FOLDER = join(tmpdir(), 'isochron-onset-bench');
const SEEDS = Array.from({ length: Number(values.takes) }, (_, k) => (values.half === 'tuned' ? 1000 : 5000) + 17 * k);

type Detector = (recording: Recording) => number[];

const ours: Detector = ({ sound, clicksS }) =>
  (clicksS.length ? detectOnsetsBesideClicks(sound, RATE, clicksS).onsets : detectOnsets(sound, RATE)).map(
    (onset) => onset.timeS,
  );

/** aubioonset with the method and threshold that did best here. It knows nothing of clicks. */
const aubio: Detector = ({ sound }) => {
  const file = join(FOLDER, 'take.wav');
  writeFileSync(file, writeWav(sound, RATE));
  const out = execFileSync('aubioonset', ['-i', file, '-O', 'specflux', '-t', '0.3', '-B', '1024', '-H', '128', '-M', '0.03'], {
    stdio: ['ignore', 'pipe', 'ignore'],
  });
  return out.toString().split('\n').filter(Boolean).map(Number);
};

const DETECTORS: Record<string, Detector> = values.aubio ? { isochron: ours, aubioonset: aubio } : { isochron: ours };

interface Scored {
  instrument: string;
  family: string;
  condition: string;
  isLegato: boolean;
  scores: Record<string, Score>;
}

mkdirSync(FOLDER, { recursive: true });
const scored: Scored[] = [];
for (const [i, instrument] of SAMPLED.entries()) {
  if (values.only && !instrument.name.includes(values.only)) continue;
  const notes = sampledNotes(instrument, FOLDER);
  for (const [c, condition] of CONDITIONS.entries()) {
    for (const seed of SEEDS) {
      const recording = makeRecording(instrument, notes, condition, seed + 101 * i + 1009 * c);
      const scores = Object.fromEntries(
        Object.entries(DETECTORS).map(([name, detect]) => [name, score(recording.onsetsS, detect(recording))]),
      );
      scored.push({
        instrument: instrument.name,
        family: instrument.family,
        condition: condition.name,
        isLegato: recording.isLegato,
        scores,
      });
    }
  }
}

const row = (name: string, part: readonly Scored[]) => {
  const cells = Object.keys(DETECTORS).map((detector) => {
    const scores = part.map((one) => one.scores[detector] as Score);
    return `${fMeasure(scores).toFixed(3)} | ${medianSdMs(scores).toFixed(2)} ms`;
  });
  console.log(`| ${name} | ${cells.join(' | ')} |`);
};
const groups = (read: (one: Scored) => string) => {
  for (const key of new Set(scored.map(read)))
    row(
      key,
      scored.filter((one) => read(one) === key),
    );
};

console.log(
  `| ${scored.length} files | ${Object.keys(DETECTORS)
    .map((name) => `${name} F1 | SD`)
    .join(' | ')} |`,
);
console.log(
  `|---|${Object.keys(DETECTORS)
    .map(() => '---|---|')
    .join('')}`,
);
row('all', scored);
groups((one) => one.condition);
groups((one) => one.instrument);
groups((one) => `${one.family}, ${one.isLegato ? 'legato' : 'staccato'}`);
