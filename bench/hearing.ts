/**
 * How well onsets are heard in what was never trained on: `npm run bench:hearing [-- --set unseen|kept|timgm|physical|physical-kept --others --each]`.
 * `unseen` are instruments of the soundfonts that were left out of training, `timgm` a soundfont and `kept` recorded notes
 * that nothing was tuned on: those two are for the report only. Needs Debian's fluidsynth, the soundfonts, ffmpeg, and with
 * `--others` aubio-tools.
 */
import { execFileSync } from 'node:child_process';
import { mkdirSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { chance, detectOnsets, type Family, isCertain, median } from '@isochron/core/analysis';
import { writeWav } from '@isochron/core/material';
import type { Onset } from '@isochron/core/schema';
import { CHECKS, type Checked, makeCheck, SAID_MS } from './hearing/checks';
import { PHYSICAL_KEPT, PHYSICAL_MODELS, type PhysicalModel, playPhysical } from './hearing/physical';
import { fontSources, RECORDED_KEPT, recordedSource, type Source } from './hearing/sources';
import { RATE } from './onsets/notes';
import { pairs, score } from './onsets/score';
import { superFlux } from './onsets/superflux';

const { values } = parseArgs({
  options: {
    set: { type: 'string', default: 'unseen' },
    packages: { type: 'string', default: join(tmpdir(), 'isochron-notes-kept/node_modules') },
    others: { type: 'boolean' },
    each: { type: 'boolean' },
    only: { type: 'string' },
  },
});
const FOLDER = join(tmpdir(), 'isochron-onset-bench');
mkdirSync(FOLDER, { recursive: true });

const SETS: Record<string, () => Source[]> = {
  unseen: () => [...fontSources('fluid', FOLDER, 'unseen'), ...fontSources('musescore', FOLDER, 'unseen')],
  timgm: () => [...fontSources('timgm', FOLDER, 'trained'), ...fontSources('timgm', FOLDER, 'unseen')],
  kept: () => RECORDED_KEPT.map(([name, family]) => recordedSource(name, family, values.packages, FOLDER)),
};

type Detector = (sound: Float32Array, made: Checked) => Onset[];
const timed = (times: readonly number[]): Onset[] => times.map((timeS) => ({ timeS, levelDb: -20 }));
const aubio: Detector = (sound) => {
  const file = join(FOLDER, 'check.wav');
  writeFileSync(file, writeWav(sound, RATE));
  const args = ['-i', file, '-O', 'specflux', '-t', '0.3', '-B', '1024', '-H', '128', '-M', '0.03'];
  const out = execFileSync('aubioonset', args, { stdio: ['ignore', 'pipe', 'ignore'] });
  return timed(out.toString().split('\n').filter(Boolean).map(Number));
};
const DETECTORS: Record<string, Detector> = {
  isochron: (sound) => detectOnsets(sound, RATE),
  'isochron with the score': (sound, { pitches }) => detectOnsets(sound, RATE, { score: pitches.map((pitch) => [pitch]) }),
  ...(values.others ? { SuperFlux: (sound: Float32Array) => timed(superFlux(sound, RATE)), aubioonset: aubio } : {}),
};

const WINDOW_S = 0.025;

/** Time from note to note: fast for what speaks fast. */
const FAST: readonly Family[] = ['struck', 'plucked', 'drum'];
const intervalOf = ({ family }: Source, k: number): number =>
  (FAST.includes(family) ? [0.125, 0.18] : [0.19, 0.25])[k % 2] as number;

interface Row {
  check: string;
  source: Pick<Source, 'name' | 'family'>;
  made: Checked;
  detector: string;
  onsets: Onset[];
  found: number[];
  /** Pairs of a true onset and the time that was found for it. */
  matched: readonly (readonly [onset: number, time: number])[];
  /** How far off each of those is about the file's own median, in ms. */
  errorsMs: number[];
}
const rows: Row[] = [];
const tell = (check: string, source: Pick<Source, 'name' | 'family'>, made: Checked): void => {
  for (const [detector, detect] of Object.entries(DETECTORS)) {
    const onsets = detect(made.sound, made);
    const found = onsets.map(({ timeS }) => timeS);
    const { medianMs } = score(made.onsetsS, found);
    const offsetS = (medianMs || 0) / 1000;
    const matched = pairs(made.onsetsS, found, offsetS, WINDOW_S);
    const errorsMs = matched.map(([onset, time]) => 1000 * (time - onset - offsetS));
    rows.push({ check, source, made, detector, onsets, found, matched, errorsMs });
  }
};

/** Physical models with other chances than those that are trained on: what is slurred, tongued and bowed anew, semiquavers at 60 to 160. */
const PHYSICAL_TAKES = 12;
const PHYSICAL = 'slurs and strokes of physical models';
const playPhysicalModels = (models: readonly PhysicalModel[]): void => {
  for (const [m, model] of models.entries())
    for (let take = 0; take < PHYSICAL_TAKES; take += 1) {
      const random = chance(880_000 + 101 * m + take);
      const { sound, starts, source, family } = playPhysical(model, random, join(FOLDER, 'physical'));
      const onsetsS = starts.map(({ frame }) => frame / RATE);
      const pitches = starts.map(({ pitch = 60 }) => pitch);
      tell(PHYSICAL, { name: source, family }, { sound, onsetsS, attacksS: onsetsS.map(() => 0), pitches, gesturesS: [] });
    }
};

if (values.set === 'physical') playPhysicalModels(PHYSICAL_MODELS);
if (values.set === 'physical-kept') playPhysicalModels(PHYSICAL_KEPT);
for (const [s, source] of (SETS[values.set]?.() ?? []).entries()) {
  const notes = source.notes();
  if (notes.length < 2) continue;
  for (const [c, check] of CHECKS.entries()) {
    if (values.only && !check.name.includes(values.only)) continue;
    for (const take of [0, 1])
      tell(check.name, source, makeCheck(notes, check, intervalOf(source, take), 7000 + 101 * s + 13 * c + take));
  }
}

/** The value below which nine tenths lie. */
const ninetieth = (values: readonly number[]): number =>
  [...values].sort((a, b) => a - b)[Math.floor(0.9 * values.length)] ?? 0;
const sdOf = (values: readonly number[]): number =>
  Math.sqrt(values.reduce((total, one) => total + one * one, 0) / Math.max(1, values.length - 1));
/** Whether a recording's figures would be shown: of its onsets no more than a fifth are doubtful, at a window of 12 ms. */
const isShown = ({ onsets }: Row): boolean =>
  onsets.filter((onset) => !isCertain(onset) || (onset.errorMs ?? 0) > 6).length <= 0.2 * onsets.length;

/** Median and standard deviation about it, in ms. */
const centreAndSd = (values: readonly number[]): string => {
  const centre = median(values);
  const sd = Math.sqrt(values.reduce((total, one) => total + (one - centre) ** 2, 0) / values.length);
  return `${centre.toFixed(1)} ± ${sd.toFixed(1)} ms`;
};

const sum = (numbers: readonly number[]): number => numbers.reduce((total, one) => total + one, 0);
const line = (own: readonly Row[]): string => {
  const [hits, wanted, got] = [
    sum(own.map(({ matched }) => matched.length)),
    sum(own.map(({ made }) => made.onsetsS.length)),
    sum(own.map(({ found }) => found.length)),
  ];
  const errors = own.flatMap(({ errorsMs }) => errorsMs);
  return `${((2 * hits) / (wanted + got)).toFixed(3)} (${(hits / got).toFixed(3)}, ${(hits / wanted).toFixed(3)}) ${sdOf(errors).toFixed(1)} ms`;
};
/** What each detector comes to, by what is asked. */
const table = new Map<string, Map<string, string>>();
for (const detector of Object.keys(DETECTORS)) {
  const own = rows.filter((row) => row.detector === detector);
  const put = (label: string, text: string): void => {
    const cells = table.get(label) ?? new Map<string, string>();
    table.set(label, cells.set(detector, text));
  };
  for (const name of [...CHECKS.map((check) => check.name), PHYSICAL]) {
    const checked = own.filter(({ check }) => check === name);
    if (checked.length) put(`${name}`, `${line(checked)}`);
  }
  for (const name of ['separate, pink noise 30 dB', 'ringing 60 ms, 20 dB', 'babble 15 dB']) {
    const notes = own
      .filter(({ check }) => check === name)
      .flatMap(({ made, matched }) => {
        const found = new Set(matched.map(([onset]) => onset));
        return made.onsetsS.map((onset, k) => ({ isFound: found.has(onset), canBe: made.heard?.[k] ?? true }));
      });
    const share = (some: typeof notes) => (some.filter(({ isFound }) => isFound).length / Math.max(1, some.length)).toFixed(3);
    const able = notes.filter(({ canBe }) => canBe);
    if (notes.length)
      put(
        `${name}: what the clean parts allow`,
        `recall ${(able.length / notes.length).toFixed(3)} could be; of those ${share(able)}, of the masked ${share(notes.filter(({ canBe }) => !canBe))}`,
      );
  }
  for (const name of ['separate', 'ringing 60 ms, 20 dB']) {
    const checked = own.filter(({ check }) => check === name);
    for (const family of new Set(checked.map(({ source }) => source.family)))
      put(`${name}, ${family}`, `${line(checked.filter(({ source }) => source.family === family))}`);
    for (const [low, high] of [
      [0, 0.03],
      [0.03, 0.06],
      [0.06, 9],
    ] as const) {
      let [hit, wanted] = [0, 0];
      // Times against the physical onset, and against half of the note's peak: two answers to when a slow note begins.
      const physical: number[] = [];
      const half: number[] = [];
      for (const { made, matched } of checked)
        made.attacksS.forEach((attackS, k) => {
          if (attackS < low || attackS >= high) return;
          wanted += 1;
          const onsetS = made.onsetsS[k] as number;
          const pair = matched.find(([one]) => one === onsetS);
          if (!pair) return;
          hit += 1;
          physical.push(1000 * (pair[1] - onsetS));
          half.push(1000 * (pair[1] - onsetS - attackS));
        });
      if (wanted === 0) continue;
      const times = hit > 2 ? `, ${centreAndSd(physical)} against the onset, ${centreAndSd(half)} against half the level` : '';
      put(`${name}, attacks ${low} to ${high} s`, `recall ${(hit / wanted).toFixed(3)} of ${wanted}${times}`);
    }
  }
  for (const name of new Set(own.map(({ check }) => check))) {
    const files = own.filter(({ check }) => check === name);
    const errors = (some: readonly Row[]) => ninetieth(some.map(({ errorsMs }) => sdOf(errorsMs))).toFixed(1);
    const shown = files.filter(isShown);
    put(
      `${name}: evenness off by, in nine of ten files`,
      `${errors(files)} ms; ${errors(shown)} ms in the ${shown.length} of ${files.length} that are shown`,
    );
  }
  for (const name of values.each ? new Set(own.map(({ source }) => source.name)) : [])
    put(
      `${name}`,
      `${line(own.filter(({ source, check }) => source.name === name && (check === 'separate' || check === PHYSICAL)))}; ${line(own.filter(({ source, check }) => source.name === name && check.startsWith('ringing')))}`,
    );
  const gestures = own.filter(({ check }) => check.startsWith('gestures'));
  const made = gestures.flatMap((row) =>
    row.made.gesturesS.map((timeS) => row.found.some((one) => Math.abs(one - timeS) < 0.03)),
  );
  if (made.length)
    put(`gestures taken for notes`, `${((100 * made.filter(Boolean).length) / made.length).toFixed(1)} % of ${made.length}`);
  // Of onsets that are said to be so sure, how many are notes; of their times, how far off they are against what is said.
  const confidence = new Map<string, [right: number, of: number]>();
  const timedErrors: [said: number, is: number][] = [];
  for (const row of own) {
    const right = new Map(row.matched.map(([, time], k) => [time, row.errorsMs[k] as number]));
    for (const { timeS, confidence: said, errorMs } of row.onsets) {
      if (said === undefined) continue;
      const bin =
        said < 0.6 ? '50 to 60' : said < 0.75 ? '60 to 75' : said < 0.85 ? '75 to 85' : said < 0.95 ? '85 to 95' : 'over 95';
      const [hits, of] = confidence.get(bin) ?? [0, 0];
      confidence.set(bin, [hits + (right.has(timeS) ? 1 : 0), of + 1]);
      const error = right.get(timeS);
      if (error !== undefined && errorMs !== undefined) timedErrors.push([errorMs, error]);
    }
  }
  for (const [bin, [hits, of]] of [...confidence].sort())
    put(`said to be ${bin} % sure`, `${((100 * hits) / of).toFixed(1)} % right of ${of}`);
  for (const [low, high] of SAID_MS) {
    const part = timedErrors.filter(([said]) => said >= low && said < high).map(([, is]) => is);
    const sd = Math.sqrt(sum(part.map((one) => one * one)) / Math.max(1, part.length));
    if (part.length) put(`time said to be off by ${low} to ${high} ms`, `off by ${sd.toFixed(1)} ms, ${part.length} notes`);
  }
}

const columns = Object.keys(DETECTORS);
console.log(`| ${values.set} | ${columns.join(' | ')} |\n|---|${columns.map(() => '---').join('|')}|`);
for (const [label, cells] of table)
  console.log(`| ${label} | ${columns.map((column) => cells.get(column) ?? '–').join(' | ')} |`);
