/**
 * Onset detection on sampled instruments at known times: `npm run bench:onsets [-- --half tuned|held --others]`.
 * Needs Debian's fluidsynth, fluid-soundfont-gm and, with --others, aubio-tools. Figures are reported on the half that
 * nothing was tuned on; some of its instruments are unknown to the trained judge altogether.
 */
import { execFileSync } from 'node:child_process';
import { mkdirSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { type DetectorOptions, detectOnsets, detectOnsetsBesideClicks, gridPrior } from '@isochron/core/analysis';
import { writeWav } from '@isochron/core/material';
import { CONDITIONS, makeRecording, type Recording } from './onsets/corpus';
import { type Half, SAMPLED } from './onsets/instruments';
import { RATE, sampledNotes } from './onsets/notes';
import { fMeasure, medianSdMs, type Score, score } from './onsets/score';
import { superFlux } from './onsets/superflux';

const { values } = parseArgs({
  options: {
    half: { type: 'string', default: 'held' },
    others: { type: 'boolean' },
    takes: { type: 'string', default: '1' },
    only: { type: 'string' },
    errors: { type: 'boolean' },
    plain: { type: 'boolean' },
  },
});
const half = values.half as Half;
const FOLDER = join(tmpdir(), 'isochron-onset-bench');
const SEEDS = Array.from({ length: Number(values.takes) }, (_, k) => (half === 'tuned' ? 100_000 : 500_000) + 17 * k);

type Detector = (recording: Recording) => number[];

const ours =
  (optionsFor: (recording: Recording) => DetectorOptions): Detector =>
  (recording) => {
    const { sound, clicksS } = recording;
    const options = optionsFor(recording);
    // Where the grid is known, it is known that nothing is played before it.
    const firstS = options.prior ? (recording.gridS[0] as number) - 0.05 : undefined;
    const found = clicksS.length
      ? detectOnsetsBesideClicks(sound, RATE, clicksS, firstS, options).onsets
      : detectOnsets(sound, RATE, options);
    return found.map((onset) => onset.timeS);
  };

/** aubioonset, which knows nothing of clicks. */
const aubio =
  (method: string, threshold: string): Detector =>
  ({ sound }) => {
    const file = join(FOLDER, 'take.wav');
    writeFileSync(file, writeWav(sound, RATE));
    const args = ['-i', file, '-O', method, '-t', threshold, '-B', '1024', '-H', '128', '-M', '0.03'];
    const out = execFileSync('aubioonset', args, { stdio: ['ignore', 'pipe', 'ignore'] });
    return out.toString().split('\n').filter(Boolean).map(Number);
  };

const DETECTORS: Record<string, Detector> = {
  isochron: ours(() => ({})),
  ...(values.plain
    ? {}
    : {
        'isochron, instrument known': ours(({ instrument }) => ({ family: instrument.family })),
        'isochron, instrument and grid known': ours(({ instrument, gridS }) => ({
          family: instrument.family,
          prior: gridPrior(gridS),
        })),
      }),
  ...(values.others
    ? { SuperFlux: ({ sound }: Recording) => superFlux(sound, RATE), aubioonset: aubio('specflux', '0.3') }
    : {}),
};

interface Scored {
  instrument: string;
  known: string;
  family: string;
  condition: string;
  isLegato: boolean;
  scores: Record<string, Score>;
}

mkdirSync(FOLDER, { recursive: true });
const scored: Scored[] = [];
for (const [i, instrument] of SAMPLED.entries()) {
  if (values.only && !instrument.name.includes(values.only) && instrument.family !== values.only) continue;
  if (half === 'tuned' && instrument.unseen) continue;
  const notes = sampledNotes(instrument, half, FOLDER);
  for (const [c, condition] of CONDITIONS.entries()) {
    for (const seed of SEEDS) {
      const recording = makeRecording(instrument, notes, condition, seed + 101 * i + 1009 * c);
      const scores = Object.fromEntries(
        Object.entries(DETECTORS).map(([name, detect]) => [name, score(recording.onsetsS, detect(recording))]),
      );
      scored.push({
        instrument: instrument.name,
        known: instrument.unseen ? 'instruments never trained on' : 'instruments trained on, other notes',
        family: instrument.family,
        condition: condition.name,
        isLegato: recording.isLegato,
        scores,
      });
      const first = Object.values(scores)[0] as Score;
      if (values.errors && first.missed + first.extra > 0) {
        const pace = (recording.onsetsS.length - 1) / ((recording.onsetsS.at(-1) ?? 0) - (recording.onsetsS[0] ?? 0));
        console.error(
          `${instrument.name}, ${condition.name}, ${recording.isLegato ? 'legato' : 'staccato'}, ${pace.toFixed(1)}/s: ${first.missed} missed, ${first.extra} extra of ${recording.onsetsS.length}, SD ${first.sdMs.toFixed(1)}`,
        );
      }
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

const names = Object.keys(DETECTORS);
console.log(`| ${scored.length} files | ${names.map((name) => `${name} F1 | SD`).join(' | ')} |`);
console.log(`|---|${names.map(() => '---|---|').join('')}`);
row('all', scored);
groups((one) => one.known);
groups((one) => one.condition);
groups((one) => `all ${one.family}`);
groups((one) => `${one.family}, ${one.isLegato ? 'legato' : 'staccato'}`);
groups((one) => one.instrument);
