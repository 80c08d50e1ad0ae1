import { execFile } from 'node:child_process';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { evenGridNotes, sampleSd } from '@isochron/core/analysis';
import { builtInPassage, constantTempo, pitchSequence, writeWav } from '@isochron/core/material';
import { firstDrill } from '@isochron/core/planning';
import { type Passage, STEADY } from '@isochron/core/schema';
import { PLUCKED_STRING, renderPlaying, simulatePlaying } from '@isochron/core/simulation';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { z } from 'zod';

const ROOT = join(import.meta.dirname, '..', '..');
const grid = { tempoBpm: 100, notesPerBeat: 4, beats: 4, startS: 1.2 };
const notes = evenGridNotes(grid);
const played = simulatePlaying(notes, { ...STEADY, spreadMs: 11, placementMs: 6 }, constantTempo(100), 3);
const plantedMs = played.map((note, k) => (note.timeS - (notes[k]?.timeS ?? 0)) * 1000);
const NAMES = ['C', 'C#', 'D', 'Eb', 'E', 'F', 'F#', 'G', 'Ab', 'A', 'Bb', 'B'];
const clicksS = Array.from({ length: 6 }, (_, k) => k * 0.6);

/** The answer of `measure --json`, key by key. */
const Answer = z.strictObject({
  onsets: z.array(z.strictObject({ timeS: z.number(), levelDb: z.number(), confidence: z.number(), errorMs: z.number() })),
  notes: z.array(
    z.strictObject({
      index: z.number(),
      expectedS: z.number(),
      onsetS: z.number().nullable(),
      deviationMs: z.number().nullable(),
      confidence: z.number().optional(),
      errorMs: z.number().optional(),
      doubleAttackMs: z.number().optional(),
    }),
  ),
  extra: z.array(z.number()),
  measures: z.strictObject({
    placementMs: z.number().nullable(),
    spreadMs: z.number().nullable(),
    driftPct: z.number().nullable(),
    unevennessPct: z.number().nullable(),
    unevennessMs: z.number().nullable(),
    npvi: z.number().nullable(),
    accuracyPct: z.number(),
    missed: z.number(),
    extra: z.number(),
    unsure: z.number(),
  }),
  verdict: z.strictObject({ outcome: z.string(), reason: z.string() }),
});

let folder: string;

const isochron = (...args: string[]) =>
  new Promise<{ code: number; out: string; err: string }>((resolve) => {
    execFile('npm', ['run', '-s', 'isochron', '--', ...args], { cwd: ROOT }, (error, out, err) =>
      resolve({ code: typeof error?.code === 'number' ? error.code : 0, out, err }),
    );
  });

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'isochron-cli-'));
  const sound = (bleed: boolean) =>
    renderPlaying({
      played,
      grid: firstDrill(builtInPassage('five-steps') as Passage).grid,
      tempo: constantTempo(100),
      instrument: PLUCKED_STRING,
      sampleRateHz: 44_100,
      lengthS: 4.5,
      seed: 3,
      noiseDb: -65,
      bleed: bleed
        ? { clicks: clicksS.map((timeS) => ({ timeS: timeS + 0.01, kind: 'beat' as const })), gain: 0.5, delayS: 0.011 }
        : undefined,
    });
  await writeFile(join(folder, 'dry.wav'), writeWav(sound(false), 44_100));
  await writeFile(join(folder, 'bleed.wav'), writeWav(sound(true), 44_100));
  await writeFile(join(folder, 'silence.wav'), writeWav(new Float32Array(44_100), 44_100));
  await writeFile(join(folder, 'clicks.txt'), clicksS.map((timeS) => `${timeS + 0.01}\n`).join(''));
  // The notes that are played, and those of another piece, in the text notation.
  const steps = pitchSequence(firstDrill(builtInPassage('five-steps') as Passage).grid).flat();
  const written = (pitches: readonly number[]) =>
    `${pitches.map((pitch) => `${NAMES[pitch % 12]}${Math.floor(pitch / 12) - 1}/16`).join(' ')}\n`;
  await writeFile(join(folder, 'steps.txt'), written(steps.slice(0, 16)));
  await writeFile(join(folder, 'other.txt'), written(steps.slice(0, 16).map((pitch) => pitch + 6)));
  await writeFile(join(folder, 'letter.wav'), 'This is not a recording.');
});

afterAll(() => rm(folder, { recursive: true }));

const measureArgs = ['--bpm', '100', '--per-beat', '4', '--beats', '4', '--start', '1.2'];

describe('isochron onsets', () => {
  it('prints one time a line, the planted ones', async () => {
    const { out, code } = await isochron('onsets', join(folder, 'dry.wav'));
    const times = out.trim().split('\n').map(Number);
    expect(code).toBe(0);
    expect(times).toHaveLength(16);
    times.forEach((timeS, k) => {
      expect(Math.abs(timeS - (played[k]?.timeS ?? 0))).toBeLessThan(0.002);
    });
  });

  it('leaves the clicks out', async () => {
    const { out } = await isochron('onsets', join(folder, 'bleed.wav'), '--clicks', join(folder, 'clicks.txt'));
    expect(out.trim().split('\n')).toHaveLength(16);
  });

  it('prints nothing for silence', async () => {
    expect(await isochron('onsets', join(folder, 'silence.wav'))).toEqual({ code: 0, out: '', err: '' });
  });
});

describe('isochron measure', () => {
  it.each(['dry.wav', 'bleed.wav'])('gives the planted figures of %s as JSON', async (file) => {
    const clicks = file === 'bleed.wav' ? ['--clicks', join(folder, 'clicks.txt')] : [];
    const { out } = await isochron('measure', join(folder, file), ...measureArgs, ...clicks, '--json');
    const { measures, notes: results } = Answer.parse(JSON.parse(out));
    expect(results).toHaveLength(16);
    expect(measures).toMatchObject({ missed: 0, extra: 0 });
    expect(Math.abs((measures.spreadMs ?? 0) - sampleSd(plantedMs))).toBeLessThan(1);
    expect(Math.abs((measures.placementMs ?? 0) - 6)).toBeLessThan(6);
  });

  it('gives nulls, not zeros, for silence', async () => {
    const { out } = await isochron('measure', join(folder, 'silence.wav'), ...measureArgs, '--json');
    const { measures, verdict } = Answer.parse(JSON.parse(out));
    expect(measures).toMatchObject({ placementMs: null, spreadMs: null, unevennessPct: null, missed: 16 });
    expect(verdict.outcome).toBe('not-judged');
  });

  it('measures against a score, by its own rhythm or with an even run that it fits', async () => {
    const score = ['--score', join(folder, 'steps.txt')];
    const own = await isochron('measure', join(folder, 'dry.wav'), '--bpm', '100', '--start', '1.2', ...score, '--json');
    const even = await isochron('measure', join(folder, 'dry.wav'), ...measureArgs, ...score, '--json');
    expect(own.code).toBe(0);
    const { measures } = Answer.parse(JSON.parse(own.out));
    expect(measures).toMatchObject({ missed: 0, extra: 0, unsure: 0 });
    expect(JSON.parse(even.out).measures).toEqual(measures);
  });

  it('hears what is played, whatever is written: another piece, or silence', async () => {
    const other = ['--score', join(folder, 'other.txt'), '--json'];
    const played = Answer.parse(JSON.parse((await isochron('measure', join(folder, 'dry.wav'), ...measureArgs, ...other)).out));
    const plain = Answer.parse(JSON.parse((await isochron('measure', join(folder, 'dry.wav'), ...measureArgs, '--json')).out));
    expect(played.onsets.map(({ timeS }) => timeS)).toEqual(plain.onsets.map(({ timeS }) => timeS));
    const silent = Answer.parse(
      JSON.parse((await isochron('measure', join(folder, 'silence.wav'), ...measureArgs, ...other)).out),
    );
    expect(silent.onsets).toEqual([]);
  });

  it('says the same in words', async () => {
    const { out } = await isochron('measure', join(folder, 'dry.wav'), ...measureArgs);
    expect(out).toMatch(/spread\s+\d+\.\d ms {2}\(95 %/);
    expect(out).toMatch(/verdict\s+\S+/);
  });
});

describe('isochron assess', () => {
  /** Eight repetitions of 16 sixteenths at 100, wherever they begin; the seventh note 25 ms late every time. */
  const csv = () => {
    const rows = Array.from({ length: 8 }, (_, repetition) =>
      simulatePlaying(notes, { ...STEADY, spreadMs: 3, habitsMs: { '6': 25 } }, constantTempo(100), 40 + repetition).map(
        ({ timeS }) => `${repetition + 1},${(timeS + 7.3 * repetition).toFixed(6)}`,
      ),
    );
    return ['repetition,timeS', ...rows.flat()].join('\n');
  };
  const args = ['--bpm', '100', '--per-beat', '4', '--beats', '4', '--goal', '120'];

  it('gives measures, verdicts, the finding and the decisions, as JSON and in words', async () => {
    const file = join(folder, 'onsets.csv');
    await writeFile(file, csv());
    const { out } = await isochron('assess', file, ...args, '--json');
    const answer = JSON.parse(out) as {
      repetitions: { measures: { missed: number; spreadMs: { value: number } }; verdict: { outcome: string } }[];
      finding: string;
      next: { bpm: number };
    };
    expect(answer.repetitions).toHaveLength(8);
    for (const { measures } of answer.repetitions) expect(measures).toMatchObject({ missed: 0, extra: 0 });
    expect(answer.finding).toMatch(/the step from note 6 to note 7 is 2\d ms too long/);
    expect((await isochron('assess', file, ...args)).out).toContain('the step from note 6 to note 7');
  });

  it('takes labels, a score and what was answered', async () => {
    const file = join(folder, 'labelled.csv');
    // Of every four notes, the third is 20 ms late.
    const rows = Array.from({ length: 6 }, (_, repetition) =>
      notes.map(
        ({ timeS }, k) =>
          `${repetition + 1},${(timeS + (k % 4 === 2 ? 0.02 : 0) + 0.002 * Math.sin(k * 7 + repetition)).toFixed(6)}`,
      ),
    );
    await writeFile(file, ['repetition,timeS', ...rows.flat()].join('\n'));
    const labels = join(folder, 'labels.csv');
    await writeFile(labels, ['note,label', ...notes.map((_, k) => `${k + 1},${k % 4 === 2 ? 'p' : 'i'}`)].join('\n'));
    const labelled = await isochron('assess', file, ...args, '--labels', labels, '--ease', 'working,tense');
    expect(labelled.out).toMatch(/“i” plays 20 ms earlier than “p”/);
    expect(labelled.out).toContain('lower: That felt tense');
    const { out } = await isochron('assess', file, ...args, '--json');
    expect(JSON.parse(out)).toMatchObject({
      finding: expect.stringMatching(/^Of every 4 notes, the third comes 20 ms later/),
      explained: { isSystematic: true },
    });
    const score = join(folder, 'assessed.txt');
    await writeFile(score, 'meter: 4/4\nC4/16 D E F G F E D C D E F G F E D |');
    const written = await isochron('assess', file, '--bpm', '100', '--score', score);
    expect(written.out).toMatch(/^1 {2}\S+: /);
    expect((await isochron('assess', file, ...args, '--ease', 'fine')).err).toContain('--ease must be of easy');
  });

  it('refuses what is no list of onsets with a sentence', async () => {
    const file = join(folder, 'wrong.csv');
    await writeFile(file, 'a,b\n1,2\n');
    expect((await isochron('assess', file, ...args)).err).toContain('repetition,timeS');
    await writeFile(file, 'repetition,timeS\n1,soon\n');
    expect((await isochron('assess', file, ...args)).err).toContain('Line 2');
  });
});

describe('a call that cannot be met', () => {
  it.each([
    [['onsets', '/no/such/file.wav'], 1, /cannot be opened/],
    [['onsets', 'letter'], 1, /not a WAV/],
    [['measure', 'dry', '--bpm', '0', '--per-beat', '4', '--beats', '4', '--start', '1'], 2, /below 10/],
    [['measure', 'dry', '--bpm', '10000', '--per-beat', '4', '--beats', '4', '--start', '1'], 2, /above 400/],
    [['measure', 'dry', '--bpm', 'fast', '--per-beat', '4', '--beats', '4', '--start', '1'], 2, /--bpm needs a number/],
    [['measure', 'dry', '--tempo', '100'], 2, /tempo/],
    [[], 2, /isochron onsets/],
  ])('%j is answered with a sentence', async (args, code, message) => {
    const files: Record<string, string> = { letter: 'letter.wav', dry: 'dry.wav' };
    const answer = await isochron(...args.map((arg) => (files[arg] ? join(folder, files[arg]) : arg)));
    expect(answer.code).toBe(code);
    expect(answer.err).toMatch(message);
    expect(answer.out).toBe('');
  });
});

describe('isochron passage', () => {
  it('lists the parts of a file, and takes the one that is named', async () => {
    const file = join(folder, 'tunes.abc');
    await writeFile(file, 'X:1\nT:Gull step\nL:1/4\nK:C\nCDEF|\n\nX:2\nT:Wave step\nL:1/4\nK:C\nGFED|\n');
    expect((await isochron('passage', file, '--parts')).out).toBe('Gull step\t4\nWave step\t4\n');
    expect((await isochron('passage', file, '--part', 'Wave step')).out).toContain('title: Wave step');
    const unknown = await isochron('passage', file, '--part', 'Tide step');
    expect(unknown).toMatchObject({ code: 2, err: expect.stringContaining('It has “Gull step”, “Wave step”.') });
  });
});
