/**
 * Makes recordings to train the ear on and writes what the ear sees of them into a folder:
 * `npm run bench:hearing-corpus -- --out FOLDER --phrases 800 --seed 1 [--which unseen]`.
 * Needs Debian's fluidsynth, fluid-soundfont-gm, musescore-general-soundfont, stk and ffmpeg, and the recorded notes of the
 * packages named in sources.ts, unpacked in `--packages`. One file of levels (a byte each, sixteenths), one of what is true.
 */
import { closeSync, mkdirSync, openSync, writeFileSync, writeSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { chance } from '@isochron/core/analysis';
import { createOnsetModelFrames, LONG_BANDS, SHORT_BANDS, STEP_LEVELS } from '../../core/src/signal/onset-model/frames';
import { RATE } from '../onsets/notes';
import { createPhraseMaker } from './make-phrase';

const { values } = parseArgs({
  options: {
    out: { type: 'string', default: join(tmpdir(), 'isochron-hearing') },
    packages: { type: 'string', default: join(tmpdir(), 'isochron-notes/node_modules') },
    phrases: { type: 'string', default: '800' },
    seed: { type: 'string', default: '1' },
    which: { type: 'string', default: 'trained' },
  },
});
const which = values.which === 'unseen' ? 'unseen' : 'trained';
const seed = Number(values.seed);

const makeOne = createPhraseMaker(which, values.packages);

mkdirSync(values.out, { recursive: true });
const stem = join(values.out, `${which}-${seed}`);
const levelsFile = openSync(`${stem}.levels`, 'w');
const index: unknown[] = [];
const writeIndex = () => {
  writeFileSync(`${stem}.json`, JSON.stringify({ longBands: LONG_BANDS, shortBands: SHORT_BANDS, phrases: index }));
  console.log(`${index.length} phrases`);
};
const levels = new Float32Array(STEP_LEVELS);
for (let k = 0; k < Number(values.phrases); k += 1) {
  const { source, family, sound, onsets } = makeOne(chance(1_000_003 * seed + k));
  const frames = createOnsetModelFrames(RATE);
  frames.push(sound);
  frames.finish();
  const rows: Uint8Array[] = [];
  while (frames.next(levels)) rows.push(Uint8Array.from(levels, (level) => Math.min(255, Math.round(16 * level))));
  writeSync(levelsFile, Buffer.concat(rows));
  index.push({ source, family, steps: rows.length, onsets: onsets.map(({ timeS, isAudible }) => [timeS, isAudible ? 1 : 0]) });
  // So that what was made is of use even if this is stopped.
  if (k % 50 === 49) writeIndex();
}
closeSync(levelsFile);
writeIndex();
