import { newestTake, openBench, setUpWith, verdictOf } from './bench-page';
import { playFor } from './driven-clock';
import { BROKEN_AT, BROKEN_WAV, PLANTED_TEMPO_BPM, PLANTED_WAV } from './fake-sound';
import { expect, test } from './test';

test.describe('a microphone that hears notes', () => {
  test.use({ microphone: PLANTED_WAV });

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

  test('sound that goes missing without a gap in the count is noticed, said and marked', async ({ page }) => {
    await page.addInitScript(() => {
      // From the event on, the track has delivered 0.3 s less than it should have.
      let lostMs = 0;
      window.addEventListener('lose-sound', () => {
        lostMs = 300;
      });
      const own = Object.getOwnPropertyDescriptor(MediaStreamTrack.prototype, 'stats')?.get;
      if (!own) throw new Error('this browser does not count what a track delivers');
      Object.defineProperty(MediaStreamTrack.prototype, 'stats', {
        get(this: MediaStreamTrack) {
          const { deliveredFramesDuration } = own.call(this);
          return { deliveredFramesDuration: deliveredFramesDuration - lostMs };
        },
      });
    });
    await setUpWith(page, { input: 'microphone' });
    await openBench(page, 'five-steps', 120, PLANTED_TEMPO_BPM);
    await page.keyboard.press('Enter');
    await verdictOf(page, 0);
    // In the middle of the next repetition: a bar is counted in, then its notes begin.
    await playFor(page, 3.5);
    await page.evaluate(() => window.dispatchEvent(new Event('lose-sound')));
    await expect(page.getByRole('alert')).toContainText(/About 0\.(2[6-9]|3[0-4]) s of sound were lost/);
    await page.keyboard.press('Escape');
    await expect(page.getByRole('link', { name: 'See it in the Ledger' })).toBeVisible();
    // The gaps come with the take that is whole, a moment after it is over.
    const known = async () => ((await newestTake(page))?.gaps ?? []).filter(({ fromS, toS }) => toS > fromS).length;
    await expect.poll(known).toBeGreaterThanOrEqual(1);
    const take = await newestTake(page);
    await page.goto(`/ledger/${take?.id}`);
    await expect(page.getByText(/Sound is missing at \d+\.\d to \d+\.\d s/)).toBeVisible();
  });
});

test.describe('a microphone in a room where someone stops', () => {
  test.use({ microphone: BROKEN_WAV });

  test('the break is heard and told by its bar, and it is counted in again', async ({ page }) => {
    await setUpWith(page, { input: 'microphone' });
    await openBench(page, 'tidewheel', 90, PLANTED_TEMPO_BPM);
    await page.keyboard.press('Enter');
    const broken = await verdictOf(page, 0);
    expect(broken).toMatchObject({ outcome: 'broken', action: 'hold', nextBpm: PLANTED_TEMPO_BPM });
    expect(broken.text).toContain(`You held on for ${BROKEN_AT} notes of 497; it broke off in bar 3 of it.`);
    await expect(page.getByTestId('phase')).toHaveText('Count-in');
    await page.keyboard.press('Escape');
    await expect(page.getByTestId('ended')).toBeVisible();
  });
});

test('a silent microphone is not judged, and the tempo stays', async ({ page }) => {
  await setUpWith(page, { input: 'microphone' });
  await openBench(page, 'in-on-the-upbeat', 200, 180);
  await page.keyboard.press('Enter');
  const verdict = await verdictOf(page, 0);
  expect(verdict).toMatchObject({ outcome: 'not-judged', nextBpm: 180 });
  expect(verdict.text).toContain('No notes were heard');
  await page.keyboard.press('Escape');
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
