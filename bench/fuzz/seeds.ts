import { createHash } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { BUILT_IN_PASSAGES, writeSmf, writeWav } from '@isochron/core/material';
import { DEFAULT_SETTINGS, type Onset } from '@isochron/core/schema';
import { PASSAGE_FORMATS } from '@isochron/core/score';
import { zipSync } from 'fflate';
import SOUNDS from '../../core/src/formats/fixtures/sounds.json' with { type: 'json' };
import { DATABASE_NAME, MANIFEST_NAME, type Manifest, recordingName } from '../../server/src/backup/manifest';
import { makeOne, PRACTICE_SESSION } from '../../server/src/testing/made-takes';

const FIXTURES = join(import.meta.dirname, '../../core/src/formats/score/fixtures');
const encoded = (text: string): Uint8Array => new TextEncoder().encode(text);
const json = (document: unknown): Uint8Array => encoded(JSON.stringify(document));

const fixtures = (endings: readonly string[]): Uint8Array[] =>
  readdirSync(FIXTURES)
    .filter((name) => endings.some((ending) => name.endsWith(ending)))
    .map((name) => readFileSync(join(FIXTURES, name)));

/** A format's seeds: files of other programs, and what is written here of every built-in passage. */
const scoreSeeds = (id: string): Uint8Array[] => {
  const format = PASSAGE_FORMATS.find((one) => one.id === id);
  return format ? [...fixtures(format.endings), ...BUILT_IN_PASSAGES.map((passage) => format.write(passage))] : [];
};

const TEXTS = [
  'C4/8 D E F | G/2',
  'title: One\nmeter: 6/8\nkey: Eb\nbeat: 3/8\nbar: 3\n3:2[ C4@1/8> D@2 E@R+G4@up~ ] {D4/16} r/4. |: x/8^ C4( D) E_ :|2',
  'staff 1: C4/4 D E F | mf G/1\nstaff 2 voice 5: C3/1 | G2/1',
];

const ONSETS: Onset[] = [0, 0.5, 1, 1.5].map((timeS) => ({ timeS, levelDb: -12 }) as Onset);
const SOUND = Float32Array.from({ length: 400 }, (_, n) => Math.sin(n / 7) / 2);

/** What a backup holds: the manifest, and what it names. */
const archive = (): Record<string, Uint8Array> => {
  const files = { [DATABASE_NAME]: encoded('rows '.repeat(40)), [recordingName('one.wav')]: writeWav(SOUND, 8000) };
  const manifest: Manifest = {
    isochronBackup: 1,
    madeAt: '2026-01-01T00:00:00.000Z',
    missing: [],
    damaged: [],
    files: Object.entries(files).map(([name, bytes]) => ({
      name,
      bytes: bytes.length,
      sha256: createHash('sha256').update(bytes).digest('hex'),
    })),
  };
  return { [MANIFEST_NAME]: encoded(JSON.stringify(manifest)), ...files };
};

/** What every reader's corpus begins with. */
export const SEEDS: Record<string, () => Uint8Array[]> = {
  musicxml: () => scoreSeeds('musicxml'),
  mxl: () => scoreSeeds('mxl'),
  midi: () => scoreSeeds('midi'),
  abc: () => scoreSeeds('abc'),
  text: () => [...scoreSeeds('text'), ...TEXTS.map(encoded)],
  // WAV, AIFF and CAF in every coding that FFmpeg writes as well.
  wav: () => [
    writeWav(SOUND, 48_000),
    writeWav(SOUND.subarray(0, 3), 8000),
    ...Object.values(SOUNDS).map((sound) => Buffer.from(sound, 'base64')),
  ],
  'onsets-midi': () => [writeSmf(ONSETS), ...fixtures(['.mid'])],
  'midi-message': () => [Uint8Array.of(0x90, 60, 100), Uint8Array.of(0x80, 60, 0), Uint8Array.of(0xb0, 64, 127)],
  'tempo-log': () => [
    encoded('day,tempo,note\n2026-03-01,96,"loose, ""at last"""\n2026-03-02,99,\n'),
    encoded('Datum;Tempo\r\n1.3.2026;96,5\r\n'),
  ],
  backup: () => [0, 9].map((level) => zipSync(archive(), { level: level as 0 | 9 })),
  documents: () => [
    json(makeOne()),
    json(PRACTICE_SESSION),
    json(BUILT_IN_PASSAGES[0]),
    json(DEFAULT_SETTINGS),
    json({ goalBpm: 99 }),
  ],
};
