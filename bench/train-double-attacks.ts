/**
 * What tells doubled attacks from single ones: `npm run bench:train-double-attacks -- --write FILE` writes attacks of the soundfonts'
 * instruments that are trained on, bench/hearing/train_doubled.py trains on them, `--pack FILE.json` puts what it learnt into core, and
 * `--check` holds that against instruments that it never heard.
 */
import { closeSync, openSync, readFileSync, writeSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { chance, filterDoubleAttacks } from '@isochron/core/analysis';
import {
  createAttackReader,
  DOUBLE_ATTACK_AFTER_S,
  DOUBLE_ATTACK_BEFORE_S,
  DOUBLE_ATTACK_LOG_ODDS,
  doubleAttack,
} from '../core/src/signal/double-attack';
import { playDoubled } from './hearing/double-attacks';
import { NOTES, recordedSources, SIMULATED_SOURCES } from './hearing/make-phrase';
import { fontSources } from './hearing/sources';
import { type TrainedLayer, writeLayers } from './hearing/write-layers';
import { MORE_TRAINED, SAMPLED } from './onsets/instruments';
import { RATE } from './onsets/notes';

const { values } = parseArgs({
  options: {
    takes: { type: 'string', default: '16' },
    write: { type: 'string' },
    pack: { type: 'string' },
    check: { type: 'boolean' },
    others: { type: 'boolean' },
  },
});
const OFTENER = 4;
const FONTS = ['fluid', 'musescore'] as const;

/** The stretch around an onset that is looked at; the detector is off by a millisecond now and then. */
const around = (sound: Float32Array, timeS: number): Float32Array => {
  const from = Math.round((timeS - DOUBLE_ATTACK_BEFORE_S) * RATE);
  return sound.slice(Math.max(0, from), from + Math.round((DOUBLE_ATTACK_BEFORE_S + DOUBLE_ATTACK_AFTER_S) * RATE));
};

/** Every attack as numbers: its features, whether it is doubled, and the gap in units of 20 ms. */
const write = (file: string): void => {
  const out = openSync(file, 'w');
  let count = 0;
  const instruments = [...SAMPLED, ...MORE_TRAINED];
  const fonts = FONTS.flatMap((font) => fontSources(font, NOTES, 'trained', instruments));
  // There are few of these: each is played more often.
  const others = [...SIMULATED_SOURCES, ...recordedSources()].flatMap((source) =>
    Array.from({ length: OFTENER }, () => source),
  );
  for (const [s, source] of [...(values.others ? [] : fonts), ...others].entries()) {
    const notes = source.notes();
    if (notes.length === 0) continue;
    for (let take = 0; take < Number(values.takes); take += 1) {
      const random = chance((values.others ? 60_000 : 40_000) + 31 * s + take * 7919);
      const { sound, struck } = playDoubled(notes, 0.3, random);
      const attacks = createAttackReader(RATE);
      for (const { timeS, gapS } of struck) {
        // The detector takes either attack for the onset, the first more often.
        const onsetS = timeS + (random.uniform() < 0.35 ? gapS : 0) + 0.0012 * random.normal();
        const features = attacks.read(around(sound, onsetS));
        // Below 10 ms a gap is not asked for either way.
        if (gapS > 0 && gapS < 0.01) continue;
        writeSync(out, new Uint8Array(Float32Array.of(...features, gapS > 0 ? 1 : 0, gapS / 0.02).buffer));
        count += 1;
      }
    }
  }
  closeSync(out);
  console.log(`${count} attacks`);
};

const pack = (file: string): void => {
  const layers = JSON.parse(readFileSync(file, 'utf8')) as TrainedLayer[];
  writeLayers('double-attack-weights.ts', 'DOUBLE_ATTACK_WEIGHTS', 'bench:train-double-attacks', layers);
};

const check = (): void => {
  const counts = new Map<string, [found: number, of: number, errors: number[]]>();
  const add = (key: string, isFound: boolean, error: number) => {
    const own = counts.get(key) ?? [0, 0, []];
    own[0] += isFound ? 1 : 0;
    own[1] += 1;
    if (isFound) own[2].push(error);
    counts.set(key, own);
  };
  for (const [s, source] of FONTS.flatMap((font) => fontSources(font, NOTES, 'unseen')).entries()) {
    const notes = source.notes();
    for (let take = 0; take < 8; take += 1) {
      const { sound, struck } = playDoubled(notes, 0.2, chance(90_000 + 31 * s + take * 7919));
      const attacks = createAttackReader(RATE);
      const heard = struck.map(({ timeS }) => doubleAttack(attacks.read(around(sound, timeS))));
      const told = filterDoubleAttacks(
        heard.map((twice, k) => {
          const beyond = twice ? twice.logOdds - DOUBLE_ATTACK_LOG_ODDS : 0;
          return {
            timeS: k,
            levelDb: 0,
            ...(twice && beyond > 0 ? { doubledOdds: beyond, doubleAttackMs: 1000 * twice.gapS } : {}),
          };
        }),
      );
      for (const [k, { gapS, repetitionKind }] of struck.entries()) {
        if (!heard[k]) continue;
        const ms = told[k]?.doubleAttackMs;
        const gap = ms === undefined ? null : ms / 1000;
        const kind =
          gapS === 0 ? 'single' : gapS < 0.012 ? 'gap 8 to 12 ms' : gapS < 0.02 ? 'gap 12 to 20 ms' : 'gap 20 to 34 ms';
        add(kind, gap !== null, Math.abs((gap ?? 0) - gapS));
        add(`${kind}, ${source.family}`, gap !== null, Math.abs((gap ?? 0) - gapS));
        if (gapS >= 0.012) add(`gap from 12 ms, ${repetitionKind}`, gap !== null, Math.abs((gap ?? 0) - gapS));
      }
    }
  }
  for (const [key, [found, of, errors]] of [...counts].sort(([a], [b]) => a.localeCompare(b))) {
    const mid = errors.sort((a, b) => a - b)[errors.length >> 1] ?? 0;
    console.log(`| ${key} | ${((100 * found) / of).toFixed(1)} % of ${of} | ${(1000 * mid).toFixed(1)} ms |`);
  }
};

if (values.write) write(values.write);
else if (values.pack) pack(values.pack);
else check();
