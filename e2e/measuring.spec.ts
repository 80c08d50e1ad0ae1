import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { articulationPct, attackHabits, usableRepetitions } from '@isochron/core/analysis';
import { writeSmf, writeWav } from '@isochron/core/material';
import { API } from '@isochron/core/schema';
import { hasNoViolations } from './accessible';
import { newestTake, openBench, pick, setUpWith, simulated, verdictOf } from './bench-page';
import { FIXTURES, planted, RATE } from './planted-file';
import { expect, type Page, test } from './test';

const measureFile = async (page: Page, file: { name: string; mimeType: string; buffer: Buffer }) => {
  await page.goto('/ledger/measure-a-file');
  await page.getByLabel('File').setInputFiles(file);
  await pick(page, 'Passage', 'five-steps');
  await page.getByLabel('Tempo', { exact: true }).fill('90');
  await page.getByRole('button', { name: 'Measure it' }).click();
};

test('the delay is measured through the virtual loopback, kept by device pair, and can be forgotten', async ({ page }) => {
  await setUpWith(page, {});
  await page.goto('/setup/delay');
  await pick(page, 'Back in through', 'virtual');
  await page.getByRole('button', { name: 'Measure the delay' }).click();
  await expect(page.getByText('Listening …')).toBeVisible();
  await expect(page.getByTestId('calibration-result')).toContainText('ms, the same to within');
  const [stored] = (await (await page.request.get('/api/settings')).json()).calibrations;
  expect(stored.input).toBe('virtual loopback');
  expect(Math.abs(stored.latencyS - 0.037)).toBeLessThan(0.0002);
  expect(stored.spreadMs).toBeLessThan(0.1);
  await page.getByRole('button', { name: 'Forget' }).click();
  await expect(page.getByRole('list', { name: 'Measured delays' })).toHaveCount(0);
});

test('a calibration can be stopped, and a microphone that hears no burst is refused with the reason', async ({ page }) => {
  await setUpWith(page, {});
  await page.goto('/setup/delay');
  await page.getByRole('button', { name: 'Measure the delay' }).click();
  await page.getByRole('button', { name: 'Stop measuring' }).click();
  await expect(page.getByRole('button', { name: 'Measure the delay' })).toBeVisible();
  // The browser's own stand-in for a microphone beeps by itself: that is not the burst.
  await page.getByRole('button', { name: 'Measure the delay' }).click();
  await expect(page.getByRole('alert')).toContainText('try again');
});

test('the virtual MIDI port plays both hands: pitch, note lengths and hand synchrony are measured', async ({ page }) => {
  await setUpWith(page, { ...simulated(4), input: 'midi', midiPortId: 'virtual' });
  await openBench(page, 'hands-together', 200, 140);
  await page.keyboard.press('Enter');
  await verdictOf(page, 0);
  await verdictOf(page, 1);
  await page.keyboard.press('Escape');
  await expect(page.getByTestId('ended')).toBeVisible();
  await expect.poll(async () => (await newestTake(page))?.input).toBe('midi');
  const take = await newestTake(page);
  const measures = take?.repetitions[0]?.measures;
  expect(take?.profile).toBe('midi');
  expect(measures).toMatchObject({ missed: 0, extra: 0, wrongNotes: 0 });
  expect(measures?.articulationPct).toBeGreaterThan(70);
  expect(measures?.articulationPct).toBeLessThan(90);
  expect(measures?.chordSpreadMs).toBeGreaterThan(0.5);
  expect(measures?.chordSpreadMs).toBeLessThan(20);
  expect(measures?.rightHandMs).not.toBeNull();
  // What is stored says the same: ends and chords lie on the clock of the notes.
  expect(articulationPct(take?.repetitions[0]?.notes ?? [])).toBeCloseTo(measures?.articulationPct ?? 0, 6);
  await page.goto(`/ledger/${take?.id}`);
  await expect(page.getByRole('columnheader', { name: 'Chord spread' })).toBeVisible();
});

test('MIDI without an instrument says what to do', async ({ page }) => {
  await setUpWith(page, { input: 'midi' });
  await openBench(page, 'five-steps', 120, 80);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('alert')).toContainText(/MIDI/);
});

test('WAV, MIDI, Ogg Vorbis and MP3 files become takes, with the planted spread', async ({ page }) => {
  await setUpWith(page, {});
  const { sound, onsets, spreadMs } = planted();
  for (const file of [
    { name: 'elsewhere.wav', mimeType: 'audio/wav', buffer: Buffer.from(writeWav(sound, RATE)) },
    { name: 'elsewhere.mid', mimeType: 'audio/midi', buffer: Buffer.from(writeSmf(onsets)) },
    { name: 'elsewhere.ogg', mimeType: 'audio/ogg', buffer: await readFile(join(FIXTURES, 'planted.ogg')) },
    { name: 'elsewhere.mp3', mimeType: 'audio/mpeg', buffer: await readFile(join(FIXTURES, 'planted.mp3')) },
  ]) {
    await measureFile(page, file);
    await expect(page.getByText('2 repetitions were found.')).toBeVisible();
    await page.getByRole('link', { name: 'See what it came to' }).click();
    await expect(page.getByText(`“${file.name}”`)).toBeVisible();
    const id = page.url().split('/').at(-1);
    const take = API.take.parse(await (await page.request.get(`/api/takes/${id}`)).json());
    expect(take.repetitions[0]?.measures).toMatchObject({ missed: 0, extra: 0 });
    expect(Math.abs((take.repetitions[0]?.measures.spreadMs?.value ?? 0) - spreadMs)).toBeLessThan(1);
    expect(take.hasRecording).toBe(!file.name.endsWith('.mid'));
  }
});

test('files that cannot be measured are refused in words', async ({ page }) => {
  await setUpWith(page, {});
  const silence = Buffer.from(writeWav(new Float32Array(RATE), RATE));
  for (const [name, buffer, words] of [
    ['empty.wav', Buffer.alloc(0), 'The file is empty'],
    ['letter.txt', Buffer.from('Dear player, this is no sound at all.'), 'cannot read sound from this file'],
    ['broken.mid', Buffer.from('MThd and nothing after it'), 'not a Standard MIDI File'],
    ['silence.wav', silence, 'No notes were heard'],
  ] as const) {
    await measureFile(page, { name, mimeType: 'application/octet-stream', buffer });
    await expect(page.getByRole('alert')).toContainText(words);
  }
});

test.describe('the page of a take', () => {
  const openRecorded = async (page: Page): Promise<string> => {
    const { takes } = API.takes.parse(await (await page.request.get('/api/takes?show=recorded&limit=200')).json());
    const id = takes.find((take) => take.input === 'simulated')?.id ?? '';
    await page.goto(`/ledger/${id}`);
    await expect(page.locator('[data-testid=waveform][data-ready=true]')).toBeVisible();
    return id;
  };

  test('says a finding, shows profile and histogram with text, and is accessible', async ({ page }) => {
    await setUpWith(page, {});
    await openRecorded(page);
    await expect(page.getByTestId('finding').first()).toHaveText(/\.$/);
    await expect(page.getByRole('img', { name: /Mean deviation of each note: note 1/ }).first()).toBeVisible();
    await expect(page.getByRole('img', { name: /Deviations of \d+ notes/ }).first()).toBeVisible();
    await hasNoViolations(page);
  });

  test('says which note spoke twice again and again, and shows it on the strip', async ({ page }) => {
    await setUpWith(page, {});
    const { takes } = API.takes.parse(await (await page.request.get('/api/takes?limit=200')).json());
    // The demo player's mallets are not together at one note of this figure.
    const steps = takes.filter(({ passageId, repetitionCount }) => passageId === 'five-steps' && repetitionCount > 5);
    for (const { id } of steps) {
      const take = API.take.parse(await (await page.request.get(`/api/takes/${id}`)).json());
      const usable = usableRepetitions(take.repetitions).map(({ notes }) => notes);
      const [habit] = attackHabits(usable, (take.drills[0] as (typeof take.drills)[number]).grid.events);
      if (habit?.kind !== 'doubled') continue;
      await page.goto(`/ledger/${id}`);
      await expect(page.getByTestId('attack-habit').first()).toContainText(
        `Note ${habit.index + 1} spoke twice in ${habit.count}`,
      );
      expect(habit.index).toBe(8);
      await expect(page.locator('[aria-label*="spoke twice"]').first()).toBeAttached();
      return;
    }
    throw new Error('no take shows the note that speaks twice');
  });

  test('onsets are added, removed and undone by keyboard, remeasured and marked', async ({ page }) => {
    await setUpWith(page, {});
    const id = await openRecorded(page);
    const read = async () => {
      return API.take.parse(await (await page.request.get(`/api/takes/${id}`)).json());
    };
    const before = await read();
    const first = before.repetitions[0];
    const wave = page.getByTestId('waveform');
    // Playing from the first note of the oldest row leaves the cursor near it, by how quick this machine is.
    await page.locator('[data-stroke="0/0"]').click();
    await wave.focus();
    await page.keyboard.press(' ');
    await expect(page.getByRole('button', { name: 'Hear the take' })).toBeVisible();
    // Half-way between two notes that sounded, an added onset can be neither of them, whatever else is heard.
    const [from, to] = (first?.notes ?? []).map(({ onsetS }) => onsetS ?? Number.NaN);
    const middleS = ((from as number) + (to as number)) / 2;
    const cursorS = async () => Number.parseFloat(await page.getByTestId('cursor').innerText());
    for (let presses = 0; Math.abs((await cursorS()) - middleS) > 0.006; presses++) {
      expect(presses, 'the cursor walks towards the middle').toBeLessThan(500);
      await page.keyboard.press((await cursorS()) < middleS ? 'ArrowRight' : 'ArrowLeft');
    }
    await page.keyboard.press('a');
    await expect(page.getByTestId('edit-remark')).toContainText('added to repetition 1');
    const editsNow = async () => (await read()).repetitions[0]?.edits?.length ?? 0;
    await expect.poll(editsNow).toBe((first?.edits?.length ?? 0) + 1);
    const added = (await read()).repetitions[0];
    expect(added?.measures.extra).toBe((first?.measures.extra ?? 0) + 1);
    await expect(page.getByRole('cell', { name: '1 (edited)' })).toBeVisible();
    await wave.focus();
    await page.keyboard.press('u');
    await expect(page.getByTestId('edit-remark')).toContainText('undone');
    await expect.poll(editsNow).toBe(first?.edits?.length ?? 0);
    const undone = (await read()).repetitions[0];
    expect(undone?.edits).toEqual(first?.edits);
    expect(undone?.measures.extra).toBe(first?.measures.extra);
    expect(undone?.measures.spreadMs?.value).toBeCloseTo(first?.measures.spreadMs?.value ?? 0, 6);
    await page.keyboard.press('Delete');
    await expect(page.getByTestId('edit-remark')).toContainText(/removed from repetition 1|no note within/);
  });

  test('goes out as CSV, MIDI and WAV', async ({ page }) => {
    await setUpWith(page, {});
    await openRecorded(page);
    for (const [name, ending, head] of [
      ['Every note as CSV', '.csv', 'repetition,tempo_bpm'],
      ['What was played as MIDI', '.mid', 'MThd'],
      ['The recording as WAV', '.wav', 'RIFF'],
    ] as const) {
      const [download] = await Promise.all([
        page.waitForEvent('download'),
        page.getByRole('button', { name }).or(page.getByRole('link', { name })).click(),
      ]);
      expect(download.suggestedFilename()).toMatch(new RegExp(`\\${ending}$`));
      const chunks: Buffer[] = [];
      for await (const chunk of await download.createReadStream()) chunks.push(chunk as Buffer);
      expect(Buffer.concat(chunks).toString('latin1', 0, 40)).toContain(head);
    }
  });

  test('is measured anew, and the old figures are kept', async ({ page }) => {
    await setUpWith(page, {});
    await openRecorded(page);
    await page.getByRole('button', { name: 'Measure the recording again' }).click();
    await expect(page.getByText(/^Before, by version/)).toBeVisible();
  });
});
