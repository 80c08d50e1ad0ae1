import { beginRun, openBench, pick, setUpWith, simulated, verdictOf } from './bench-page';
import { playUntil } from './driven-clock';
import { expect, type Page, test } from './test';

/** What the page asks the browser's speech to say is written down, and kept over the pages of a tab. */
const listenToSpeech = (page: Page) =>
  page.addInitScript(() => {
    const said = (words: string) =>
      sessionStorage.setItem('said', JSON.stringify([...JSON.parse(sessionStorage.getItem('said') ?? '[]'), words]));
    Object.assign(window, {
      // The browser's own takes no made-up voice.
      SpeechSynthesisUtterance: class {
        constructor(readonly text: string) {}
      },
    });
    Object.defineProperty(window, 'speechSynthesis', {
      value: Object.assign(new EventTarget(), {
        getVoices: () => [{ name: 'A made-up voice', lang: 'en-GB' }],
        cancel: () => {},
        speak: (one: SpeechSynthesisUtterance) => {
          said(one.text);
          one.onstart?.(new Event('start') as SpeechSynthesisEvent);
          one.onend?.(new Event('end') as SpeechSynthesisEvent);
        },
      }),
    });
  });

const saidOn = (page: Page): Promise<string[]> => page.evaluate(() => JSON.parse(sessionStorage.getItem('said') ?? '[]'));

test('three blocks of a day can be followed by ear alone', async ({ page }) => {
  await listenToSpeech(page);
  await setUpWith(page, { ...simulated(2), speaks: true });
  await page.goto('/');
  const [, second = '', third = ''] = await beginRun(page, 3, 0.3);
  await playUntil(page, 'h1', second);
  await playUntil(page, 'h1', third);
  await playUntil(page, '[data-testid=tempo]');
  await playUntil(page, '[data-testid=ended]');
  await expect.poll(() => saidOn(page)).toContain('That was the last block. The session is over.');
  const said = await saidOn(page);
  const places = [`Next: ${second}.`, `Next: ${third}.`, 'That was the last block. The session is over.'].map((words) =>
    said.indexOf(words),
  );
  expect(places).not.toContain(-1);
  expect(places).toEqual([...places].sort((a, b) => a - b));
  // Between two of them the verdict of each repetition, in a word.
  for (const [k, at] of places.entries()) {
    const verdicts = said.slice(k === 0 ? 0 : (places[k - 1] as number) + 1, at);
    expect(verdicts.length, `block ${k + 1}`).toBeGreaterThan(0);
    for (const words of verdicts) expect(words).toMatch(/^(Clean|Close|Not yet|Came apart|Not judged|Broke off)\. /);
  }
});

test('nothing is said where the player does not want it; a voice is chosen in Setup', async ({ page }) => {
  await listenToSpeech(page);
  await setUpWith(page, simulated(2));
  await openBench(page, 'five-steps', 200, 170);
  await page.keyboard.press('Enter');
  await verdictOf(page, 0);
  await page.keyboard.press('Escape');
  expect(await saidOn(page)).toEqual([]);
  await page.goto('/setup/playing');
  await pick(page, 'Say each decision aloud', 'yes');
  await expect.poll(() => saidOn(page)).toEqual(['Clean. 96 again.']);
  await pick(page, 'By this voice', 'A made-up voice');
  await expect.poll(async () => (await saidOn(page)).length).toBe(2);
});
