/**
 * Makes docs/screenshots from the demo data: `npm run screenshots`. One picture of each main view, 1280 × 800; `-- NAME …` for
 * some of them.
 */
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { API } from '@isochron/core/schema';
import { chromium, type Page } from '@playwright/test';
// @ts-expect-error: a script without types.
import { buildWeb } from '../scripts/build-web.mjs';
import { TEST_MOMENT, TEST_ZONE } from '../scripts/fixed-clock';
import { spawnServer } from '../server/src/testing/spawn-server';
import { choose, newestTake, openBench, pick, setUpWith, simulated, verdictOf } from './bench-page';
import { chromiumWith } from './chromium';

const ROOT = join(import.meta.dirname, '..');
const SETTLE_MS = 900;

buildWeb();
const folder = await mkdtemp(join(tmpdir(), 'isochron-screenshots-'));
const server = await spawnServer(folder, { env: { ISOCHRON_DEMO: '1', ISOCHRON_NOW: TEST_MOMENT, TZ: TEST_ZONE } });
const BASE = server.origin;

/** Two staves, a slur, a triplet, a tie, a grace note, dynamics: an invented figure. */
const TYPED = `title: Ebb and bell
meter: 3/4
key: Eb
tempo: 84
clef: treble bass

staff 1 voice 1: p Eb5/8( D C) Bb4 Ab/4> | 3:2[ G4/8 Ab Bb ] {D5/16} C5/4. Bb4/8~ | Bb4/8 F G/16 Ab Bb C5 D5/4' | f Eb5/2. |
staff 2 voice 5: Eb3+G3/2. | Eb3/4 Bb2 G2 | F3/2 Bb2/4 | Eb3/2. |
`;

/** The views, each with the way to it. The running Bench comes last: it adds a take. */
const VIEWS: Record<string, (page: Page) => Promise<void>> = {
  today: async (page) => {
    await page.goto(`${BASE}/`);
    await page.getByRole('button', { name: 'Begin', exact: true }).waitFor();
  },
  'bench-before': async (page) => {
    await page.goto(`${BASE}/bench/tidewheel-wave`);
    await page.getByRole('button', { name: /^Take the tempo where it is easy/ }).waitFor({ timeout: 60_000 });
  },
  tempo: async (page) => {
    await page.goto(`${BASE}/ledger/tempo/long-short-walk`);
    await page.getByTestId('strategies-sentence').waitFor({ timeout: 60_000 });
  },
  material: async (page) => void (await page.goto(`${BASE}/material`)),
  passage: async (page) => {
    await page.goto(`${BASE}/material/tidewheel`);
    // Thirty-two bars take a moment to be drawn.
    await page.locator('[aria-label^="Notation of"] path').first().waitFor({ state: 'attached' });
  },
  'passage-typed': async (page) => {
    await page.goto(`${BASE}/material/new`);
    await page.getByLabel('The notes as text').fill(TYPED);
  },
  pattern: async (page) => {
    await page.goto(`${BASE}/material/patterns`);
    await pick(page, 'Key', 'Eb');
    await pick(page, 'In', '2', true);
  },
  'bench-method': async (page) => {
    await page.goto(`${BASE}/bench/tidewheel-wave`);
    await choose(page, 'Practice method', 'Long and short');
    await page.locator('#config-panel').evaluate((element) => element.scrollIntoView());
  },
  ledger: async (page) => {
    await page.goto(`${BASE}/ledger`);
    await pick(page, 'Passage', 'tidewheel-wave');
  },
  day: async (page) => {
    await page.goto(`${BASE}/ledger/day/2026-11-24`);
    await page.getByTestId('often-weak').waitFor();
  },
  weeks: async (page) => {
    await page.goto(`${BASE}/ledger/tempo/tidewheel-wave`);
    await page.getByTestId('goal-range').waitFor();
    await page.getByTestId('curve-words').waitFor({ timeout: 60_000 });
    await page.getByTestId('goal-range').evaluate((element) => element.parentElement?.scrollIntoView());
  },
  beside: async (page) => {
    const listed = await page.request.get(`${BASE}/api/takes?passageId=tidewheel-wave&limit=2`);
    const [one, other] = API.takes.parse(await listed.json()).takes;
    await page.goto(`${BASE}/ledger/${one?.id}/beside?with=${other?.id}`);
    await page.getByTestId('strip').waitFor();
  },
  take: async (page) => {
    await page.goto(`${BASE}/ledger/${(await newestTake(page, BASE))?.id}`);
    await page.getByTestId('finding').filter({ hasText: /\w/ }).first().waitFor();
  },
  'take-recording': async (page) => {
    await setUpWith(page, {}, BASE);
    await page.goto(`${BASE}/ledger/${(await newestTake(page, BASE))?.id}`);
    await page.locator('[data-testid=waveform][data-ready=true]').waitFor();
    await page
      .getByRole('heading', { name: 'Note by note' })
      .first()
      .evaluate((element) => element.scrollIntoView());
  },
  along: async (page) => {
    await page.goto(`${BASE}/material/along`);
    await page.getByRole('list', { name: 'Recordings' }).getByRole('link').first().click();
    await page.getByLabel('Speed').fill('70');
    await pick(page, 'Over and over, from', { label: 'bar 2' });
    await page.getByRole('heading', { level: 1 }).click();
    await page.keyboard.press('ArrowRight');
    await page.getByTestId('evenness').waitFor();
  },
  setup: async (page) => {
    await setUpWith(page, simulated(6), BASE);
    await page.goto(`${BASE}/setup/playing`);
  },
  bench: async (page) => {
    await setUpWith(page, simulated(8), BASE);
    await openBench(page, 'five-steps', 120, 100, BASE);
    await page.keyboard.press('Enter');
    await verdictOf(page, 3);
  },
  'bench-after': async (page) => {
    await page.keyboard.press('Escape');
    await page.getByTestId('day-words').waitFor({ state: 'attached' });
  },
  'bench-phone': async (page) => {
    await setUpWith(page, simulated(8), BASE);
    await page.setViewportSize({ width: 390, height: 844 });
    await openBench(page, 'five-steps', 120, 100, BASE);
    await page.keyboard.press('Enter');
    await verdictOf(page, 2);
  },
};

try {
  const browser = await chromium.launch(chromiumWith());
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, locale: 'en-GB', timezoneId: TEST_ZONE });
  await setUpWith(page, {}, BASE);
  const only = process.argv.slice(2);
  for (const [name, open] of Object.entries(VIEWS)) {
    if (only.length > 0 && !only.includes(name)) continue;
    await open(page);
    await page.waitForTimeout(SETTLE_MS);
    await page.screenshot({ path: join(ROOT, 'docs', 'screenshots', `${name}.png`) });
  }
  await browser.close();
} finally {
  await server.kill();
  await rm(folder, { recursive: true, force: true });
}
