/**
 * Writes the planted sound in formats that this product reads but does not write: `npx tsx e2e/make-fixtures.ts`. Needs
 * Debian's vorbis-tools and lame; their output is kept in fixtures/.
 */
import { execFileSync } from 'node:child_process';
import { mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { writeWav } from '@isochron/core/material';
import { FIXTURES, planted, RATE } from './planted-file';

const { sound } = planted();
const wav = join(FIXTURES, 'planted.wav');
mkdirSync(FIXTURES, { recursive: true });
writeFileSync(wav, writeWav(sound, RATE));
execFileSync('oggenc', ['--quiet', '-q', '1', '-o', join(FIXTURES, 'planted.ogg'), wav]);
execFileSync('lame', ['--quiet', '-V', '6', wav, join(FIXTURES, 'planted.mp3')]);
rmSync(wav);
