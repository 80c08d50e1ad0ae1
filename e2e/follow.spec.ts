import { openBench, setUpWith, simulated, verdictOf } from './bench-page';
import { playFor, playUntil } from './driven-clock';
import { expect, type Page, test } from './test';

/** Four sixteenths to the beat. */
const NOTES_PER_BEAT = 4;

/** The first notes of the systems in view that lie wholly on the screen, and the one in which a bar is marked. */
const seen = (page: Page) =>
  page.evaluate(() => {
    const systems = [...document.querySelectorAll<HTMLElement>('[data-system]')];
    const isSeen = (element: Element) => {
      const { top, bottom } = element.getBoundingClientRect();
      return top >= 0 && bottom <= window.innerHeight;
    };
    const notation = (system: HTMLElement) => system.querySelector('[role=img]') ?? system;
    return {
      all: systems.map(({ dataset }) => Number(dataset.system)),
      seen: systems.filter((one) => isSeen(notation(one))).map(({ dataset }) => Number(dataset.system)),
      marked: systems.filter((one) => one.querySelector('[data-testid=bar-mark]')).map(({ dataset }) => Number(dataset.system)),
    };
  });

test('a passage of 32 bars is followed by systems, with the bar marked', async ({ page }) => {
  await setUpWith(page, simulated(3));
  await openBench(page, 'tidewheel', 90, 60);
  await page.keyboard.press('Enter');
  await playUntil(page, '[data-testid=phase]', 'Play');
  for (const moment of [1, 2, 3, 4, 5]) {
    await playFor(page, 22);
    const { all, marked } = await seen(page);
    // At 60 a beat is a second; the page may be one behind what the test waited for.
    const note = NOTES_PER_BEAT * 22 * moment;
    expect(all).toHaveLength(3);
    expect(marked, `moment ${moment}`).toHaveLength(1);
    const [system] = marked as [number];
    expect(system, `moment ${moment}`).toBeLessThanOrEqual(note + NOTES_PER_BEAT);
    expect(all.find((from) => from > system) ?? Number.POSITIVE_INFINITY, `moment ${moment}`).toBeGreaterThan(
      note - 2 * NOTES_PER_BEAT,
    );
    // It may be turning just then.
    await expect.poll(async () => (await seen(page)).seen, `moment ${moment}`).toContain(system);
    // What is behind already shows what was heard: each bar but the one that sounds, and one that is being looked at.
    const row = page.locator('[data-repetition="0"]');
    await expect(row.getByText('so far').first()).toBeVisible();
    const strokes = await row
      .locator('[data-stroke]')
      .evaluateAll((all) => all.map((one) => Number((one.getAttribute('data-stroke') ?? '').split('/')[1])));
    expect(Math.max(...strokes), `moment ${moment}`).toBeLessThan(note);
    expect(Math.max(...strokes), `moment ${moment}`).toBeGreaterThan(note - 2.5 * 4 * NOTES_PER_BEAT);
  }
  // With what was heard under the notes as well.
  await verdictOf(page, 0);
  await playUntil(page, '[data-testid=phase]', 'Play');
  await playFor(page, 40);
  const second = await seen(page);
  expect(second.marked).toHaveLength(1);
  expect(second.seen).toContain(second.marked[0]);
  await page.keyboard.press('Escape');
  await expect(page.getByTestId('ended')).toBeVisible();
});

test('who wants to hear and not to look has no bar marked', async ({ page }) => {
  await setUpWith(page, { ...simulated(3), marksBar: false });
  await openBench(page, 'tidewheel', 90, 60);
  await page.keyboard.press('Enter');
  await playUntil(page, '[data-testid=phase]', 'Play');
  await playFor(page, 20);
  const { all, marked } = await seen(page);
  expect(all).toHaveLength(3);
  expect(marked).toEqual([]);
  await page.keyboard.press('Escape');
  await expect(page.getByTestId('ended')).toBeVisible();
});
