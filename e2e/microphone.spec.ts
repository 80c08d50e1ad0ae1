import { expect, test } from '@playwright/test';
import { figureOf, newestTake, openBench, setUpWith, verdictOf } from './bench-page';
import { PLANTED_TEMPO_BPM, plantedTake } from './fake-sound';

// The browser's stand-in for a microphone drops sound, unseen by the page, whenever the machine's processor is taken away.
test.describe.configure({ retries: 5 });

test('a real microphone path gives back the planted spread and unevenness within 1.5 ms', async ({ page }) => {
  const planted = plantedTake();
  await setUpWith(page, { input: 'microphone' });
  await openBench(page, 'five-steps', 120, PLANTED_TEMPO_BPM);
  await page.keyboard.press('Enter');
  await verdictOf(page, 0);
  expect(await figureOf(page, 'missed')).toBe(0);
  expect(await figureOf(page, 'extra')).toBe(0);
  expect(Math.abs((await figureOf(page, 'spread')) - planted.spreadMs)).toBeLessThan(1.5);
  const unevennessErrorPct = (await figureOf(page, 'unevenness')) - planted.unevennessPct;
  expect(Math.abs(unevennessErrorPct / 100) * planted.shortestIntervalMs).toBeLessThan(1.5);

  // What was played is kept, and measured from the recording.
  await page.keyboard.press('Escape');
  await expect(page.getByRole('link', { name: 'See it in the Ledger' })).toBeVisible();
  const take = await newestTake(page);
  expect(take).toMatchObject({ input: 'microphone', hasRecording: true });
  const { readWav, detectOnsets } = await import('@isochron/core');
  const wav = await page.request.get(`/api/takes/${take?.id}/recording`);
  const { samples, sampleRateHz } = readWav(new Uint8Array(await wav.body()));
  const heard = detectOnsets(samples, sampleRateHz).map((onset) => onset.timeS);
  for (const note of take?.repetitions[0]?.notes ?? []) {
    expect(Math.min(...heard.map((timeS) => Math.abs(timeS - (note.onsetS ?? 0))))).toBeLessThan(0.002);
  }
});

test('a microphone that vanishes stops the take and keeps it', async ({ page }) => {
  await page.addInitScript(() => {
    const open = navigator.mediaDevices.getUserMedia.bind(navigator.mediaDevices);
    navigator.mediaDevices.getUserMedia = async (wanted) => {
      const stream = await open(wanted);
      // Unplugging ends the track from outside: the browser fires `ended`.
      window.addEventListener('unplug', () => {
        for (const track of stream.getTracks()) {
          track.stop();
          track.dispatchEvent(new Event('ended'));
        }
      });
      return stream;
    };
  });
  await setUpWith(page, { input: 'microphone' });
  await openBench(page, 'five-steps', 120, PLANTED_TEMPO_BPM);
  await page.keyboard.press('Enter');
  await verdictOf(page, 0);
  await page.evaluate(() => window.dispatchEvent(new Event('unplug')));
  await expect(page.getByTestId('ended')).toHaveText('Stopped: the sound was lost.');
  await expect(page.getByRole('alert')).toContainText('The microphone is gone. What you played is kept');
  await expect(page.getByRole('link', { name: 'See it in the Ledger' })).toBeVisible();
});

for (const [name, message] of [
  ['NotAllowedError', 'may not use the microphone'],
  ['NotFoundError', 'No microphone was found'],
  ['NotReadableError', 'Another program holds the microphone'],
] as const) {
  test(`a microphone refused with ${name} is explained`, async ({ page }) => {
    await page.addInitScript((refusal) => {
      navigator.mediaDevices.getUserMedia = () => Promise.reject(new DOMException('refused', refusal));
    }, name);
    await setUpWith(page, { input: 'microphone' });
    await openBench(page, 'five-steps', 120, 60);
    await page.keyboard.press('Enter');
    await expect(page.getByRole('alert')).toContainText(message);
    await expect(page.getByRole('button', { name: 'Begin' })).toBeEnabled();
  });
}
