import { API, DEFAULT_SETTINGS, type Settings } from '@isochron/core/schema';
import { playUntil } from './driven-clock';
import { expect, type Locator, type Page } from './test';

/** Sets the player's settings as Setup would. */
export const setUpWith = async (page: Page, part: Partial<Settings>, base = ''): Promise<void> => {
  const settings = { ...DEFAULT_SETTINGS, appearance: 'paper' as const, ...part };
  expect((await page.request.patch(`${base}/api/settings`, { data: settings })).ok()).toBe(true);
};

/** The simulated player with an unsteadiness. */
export const simulated = (spreadMs: number): Partial<Settings> => ({
  input: 'simulated',
  skill: { ...DEFAULT_SETTINGS.skill, spreadMs },
});

/** The word of the Bench's sentence that opens a part of how it is practised, and says what is chosen there. */
export const partOf = (page: Page, part: string) => page.getByRole('button', { name: new RegExp(`^${part}: `) });

/** Opens a part of how it is practised, where it is closed. */
export const openPart = async (page: Page, part: string): Promise<void> => {
  const word = partOf(page, part);
  if ((await word.getAttribute('aria-expanded')) !== 'true') await word.click();
  await expect(page.getByRole('region', { name: part })).toBeVisible();
};

/** Chooses a card of such a part. */
export const choose = async (page: Page, part: string, name: string): Promise<void> => {
  await openPart(page, part);
  const card = page.getByRole('radio', { name, exact: true });
  await card.click();
  await expect(card).toBeChecked();
};

/** A field that asks for one of several: buttons in a row, or a list. */
const choiceField = (page: Page | Locator, name: string | RegExp, exact: boolean) =>
  page.getByRole('radiogroup', { name, exact }).or(page.getByRole('combobox', { name, exact }));

/** Chooses in such a field, by the value or by the name of what is chosen. */
export const pick = async (
  page: Page | Locator,
  field: string | RegExp,
  choice: string | { label: string },
  exact = false,
): Promise<void> => {
  const asked = choiceField(page, field, exact);
  // A list becomes a row of buttons when it is known that there are few to choose from: until it is one of them, it is tried again.
  await expect(async () => {
    if ((await asked.getAttribute('role')) !== 'radiogroup') {
      await asked.selectOption(choice, { timeout: 5_000 });
      return;
    }
    const button =
      typeof choice === 'string'
        ? asked.locator(`input[value="${choice}"]`)
        : asked.getByRole('radio', { name: choice.label, exact: true });
    await button.click({ timeout: 5_000 });
    await expect(button).toBeChecked({ timeout: 5_000 });
  }).toPass({ timeout: 60_000 });
};

/** What such a field has chosen, by its value. */
export const picked = (page: Page | Locator, field: string | RegExp): Promise<string> =>
  // Read in one go: a list may become a row of buttons meanwhile.
  choiceField(page, field, false).evaluate((asked) =>
    asked instanceof HTMLSelectElement ? asked.value : (asked.querySelector<HTMLInputElement>('input:checked')?.value ?? ''),
  );

/** Opens the Bench on a passage and sets goal and start; nothing has the focus after. */
export const openBench = async (page: Page, passageId: string, goalBpm: number, startBpm: number, base = ''): Promise<void> => {
  await page.goto(`${base}/bench/${passageId}`);
  await page.getByLabel('Goal').fill(String(goalBpm));
  await page.getByLabel('Start', { exact: true }).fill(String(startBpm));
  await page.getByRole('heading', { level: 1 }).click();
};

/** Waits for the verdict of a repetition (from 0) and gives its outcome, action and the tempo that follows. */
export const verdictOf = async (page: Page, repetition: number) => {
  const selector = `[data-testid=verdict][data-repetition="${repetition}"]`;
  await playUntil(page, selector);
  const verdict = page.locator(selector);
  return {
    outcome: await verdict.getAttribute('data-outcome'),
    action: await verdict.getAttribute('data-action'),
    text: await verdict.innerText(),
    nextBpm: Number(await page.getByTestId('tempo').innerText()),
  };
};

/** The number that a figure on the Bench shows. */
export const figureOf = async (page: Page, name: string): Promise<number> => {
  const text = await page.locator(`[data-figure=${name}]`).innerText();
  return Number((text.split('\n')[0] ?? '').replace('−', '-').replace(/[^\d.+-]/g, ''));
};

/** The newest take on the server. */
export const newestTake = async (page: Page, base = '') => {
  const { takes } = API.takes.parse(await (await page.request.get(`${base}/api/takes?limit=1`)).json());
  const [newest] = takes;
  return newest ? API.take.parse(await (await page.request.get(`${base}/api/takes/${newest.id}`)).json()) : null;
};

/** Changes how "Five steps and back" is practised, as the Bench would. */
export const changePracticeConfig = async (page: Page, change: object): Promise<void> => {
  expect((await page.request.patch('/api/practice-configs/five-steps.first.whole', { data: change })).ok()).toBe(true);
};

/** How the other tests expect it. */
export const PLAIN_CONFIG = {
  strategyId: 'half-speed-climb',
  overshootPct: 0,
  relaxedFinish: false,
  minRepetitions: 1,
  restBars: 0,
  click: null,
  methodId: 'straight',
  alsoMethodId: null,
};

/** Passages that are over in seconds, with their titles. */
const SHORT_PASSAGES = [
  ['five-steps', 'Five steps and back'],
  ['hands-together', 'Hands together'],
  ['tidewheel-wave', 'Tidewheel, bars 9 to 11'],
] as const;

/**
 * Begins today's plan as the player does, then has so many blocks of it on short passages, each so
 * short: what is planned depends on the day, and a whole study would take minutes. Gives their titles.
 */
export const beginRun = async (page: Page, count: number, minutes: number): Promise<string[]> => {
  await page.getByRole('button', { name: 'Begin', exact: true }).click();
  await expect(page.getByTestId('run')).toContainText(/block 1 of \d+ · \d+ minutes? left/);
  const passages = SHORT_PASSAGES.slice(0, count);
  await page.evaluate(
    ([each, short]) => {
      const kept = JSON.parse(localStorage.getItem('isochron-run') ?? '{}');
      const [block] = kept.state.run.blocks;
      kept.state.run.blocks = short.map(([passageId, title]) => ({
        ...block,
        config: { passageId, variantId: 'first', sectionId: 'whole' },
        title,
        kind: 'edge',
        purpose: 'work',
        uses: [],
        startBpm: null,
        minutes: each,
        restMin: 0,
      }));
      localStorage.setItem('isochron-run', JSON.stringify(kept));
    },
    [minutes, passages] as const,
  );
  await page.goto(new URL(`/bench/${SHORT_PASSAGES[0][0]}?variant=first&section=whole`, page.url()).href);
  return passages.map(([, title]) => title);
};
