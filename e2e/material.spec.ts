import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { API, type Passage } from '@isochron/core/schema';
import { hasNoViolations } from './accessible';
import { choose, newestTake, openBench, openPart, partOf, pick, picked, setUpWith, simulated, verdictOf } from './bench-page';
import { expect, type Page, test } from './test';

const FIXTURES = join(import.meta.dirname, '../core/src/formats/score/fixtures');

const storedPassage = async (page: Page, id: string): Promise<Passage> =>
  API.passage.parse(await (await page.request.get(`/api/passages/${id}`)).json());

const idOnPage = (page: Page): string => new URL(page.url()).pathname.split('/').at(-1) ?? '';

const stored = (page: Page) => expect(page.getByTestId('saving')).toHaveText('stored');

test('a passage is typed with its notation drawn as one types, kept by itself, corrected, and practised', async ({ page }) => {
  await setUpWith(page, simulated(3));
  await page.goto('/material');
  await page.getByRole('heading', { level: 1 }).click();
  // One key leads to a new one.
  await page.keyboard.press('n');
  const text = page.getByLabel('The notes as text');
  await expect(text).toHaveValue(/title: New passage/);
  await text.fill('title: Gull figure\nmeter: 2/4\nkey: D\ntempo: 80\n\nD4@1/8 E@2 F#@3 A@5 | H4/4 |');
  await expect(page.getByText('Line 6, “H4/4”: this is not understood.')).toBeVisible();
  await text.fill('title: Gull figure\nmeter: 2/4\nkey: D\ntempo: 80\n\nD4@1/8 E@2 F#@3 A@5 | F#@3/2 |');
  await expect(
    page.getByRole('img', { name: /^Notation of Gull figure: notes 1 to 5: D 4, E 4, F sharp 4, A 4, F sharp 4/ }),
  ).toBeVisible();
  await stored(page);
  await expect(page).toHaveURL(/\/material\/typed-/);
  const id = idOnPage(page);
  const figure = { title: 'Gull figure', goalBpm: 80, bars: 2, keys: [{ fifths: 2 }] };
  await expect.poll(() => storedPassage(page, id)).toMatchObject(figure);

  // Marks by keys, undone and redone.
  await page.getByRole('button', { name: 'Note 2: 2' }).focus();
  await page.keyboard.press('4');
  await expect(page.getByRole('button', { name: 'Note 2: 4' })).toBeVisible();
  await expect(page.locator(':focus')).toHaveAttribute('aria-label', 'Note 3: 3');
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('button', { name: 'Note 2: 2' })).toBeVisible();
  await page.keyboard.press('Control+Shift+z');
  await expect(page.getByRole('button', { name: 'Note 2: 4' })).toBeVisible();
  await stored(page);
  // What cannot be read yet is not lost by a reload.
  await text.fill('title: Gull figure\nmeter: 2/4\nkey: D\ntempo: 80\n\nD4@1/8 E@2 F#@3 A@5 | F#@3/2 | what');
  await expect(page.getByText('“what”')).toBeVisible();
  await page.reload();
  await expect(text).toHaveValue(/\| what$/);
  await text.fill('title: Gull figure\nmeter: 2/4\nkey: D\ntempo: 80\n\nD4@1/8 E@2 F#@3 A@5 | F#@3/2 |');
  await stored(page);

  await openBench(page, id, 200, 120);
  await page.keyboard.press('Enter');
  // Five notes are clean by luck now and then: a raise waits for more of them.
  expect(await verdictOf(page, 0)).toMatchObject({ outcome: 'clean', nextBpm: 120 });
  await page.keyboard.press('Escape');
  await expect(page.getByTestId('ended')).toBeVisible();
});

test('two tabs: the one that comes second is told, and nothing is overwritten', async ({ page, context }) => {
  await page.goto('/material/rolling-threes');
  const other = await context.newPage();
  await other.goto('/material/rolling-threes');
  await stored(other);
  await page.getByRole('button', { name: 'Note 3: R' }).focus();
  await page.keyboard.press('!');
  await stored(page);
  await other.getByRole('button', { name: 'Note 5: R' }).focus();
  await other.keyboard.press('!');
  await expect(other.getByText('changed elsewhere meanwhile')).toBeVisible();
  const { variants } = await storedPassage(page, 'rolling-threes');
  expect(Object.values(variants[0]?.marks ?? {}).filter(({ difficult }) => difficult)).toHaveLength(1);
  await other.evaluate(() => localStorage.clear());
  await page.keyboard.press('Control+z');
  await stored(page);
});

test('a spot that may go wrong leads to its drill by one press', async ({ page }) => {
  await setUpWith(page, simulated(3));
  const before = await storedPassage(page, 'rolling-threes');
  await page.goto('/material/rolling-threes');
  await page.getByRole('button', { name: 'Note 3: R' }).focus();
  await page.keyboard.press('!');
  await expect(page.getByText('You marked note 3 as difficult.')).toBeVisible();
  await stored(page);
  await page.getByRole('button', { name: 'Practise note 2 to 3' }).click();
  await expect(page).toHaveURL(/\/bench\/rolling-threes/);
  await expect(partOf(page, 'Practice method')).toHaveText('one spot with add a note');
  await expect(page.getByRole('button', { name: 'Notes 1 to 5 · 2 notes' })).toBeVisible();
  // Back to how the other tests expect it.
  await page.keyboard.press('u');
  await expect(partOf(page, 'Practice method')).toHaveText('straight');
  await page.request.put('/api/passages/rolling-threes', { data: before });
});

test('a file of notation is read, what was simplified is said, and it goes out again', async ({ page }) => {
  await page.goto('/material');
  const file = page.getByLabel('A file of notation');
  await file.setInputFiles({ name: 'broken.musicxml', mimeType: 'text/xml', buffer: Buffer.from('<score-partwise><part>') });
  await expect(page.getByRole('alert')).toContainText('not well-formed XML');
  await file.setInputFiles(join(FIXTURES, 'tide-table-musescore.mxl'));
  await expect(page.getByRole('heading', { level: 1, name: 'Tide table & Moon' })).toBeVisible();
  await expect(page.getByText('Repeats are written out; bars keep the numbers of the page.')).toBeVisible();
  await expect(page.getByRole('img', { name: /^Notation of Tide table & Moon/ }).first()).toBeVisible();
  const id = idOnPage(page);
  expect((await storedPassage(page, id)).pageBars).toEqual([1, 2, 1, 3]);
  const [saved] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save as MusicXML' }).click(),
  ]);
  expect(saved.suggestedFilename()).toBe(`${id}.musicxml`);
  expect(await readFile((await saved.path()) ?? '', 'utf8')).toContain('<work-title>Tide table &amp; Moon</work-title>');
});

test('the words, chord symbols and signs of a song are drawn, typed and saved again', async ({ page }) => {
  await page.goto('/material');
  const song = [
    'X:1',
    'T:Rope song',
    'M:3/4',
    'L:1/4',
    'K:F',
    '"F"F !trill!G [K:clef=bass]A, | "C7/E"E3 |]',
    'w:Haul-ing rope in',
    '',
  ];
  const file = { name: 'rope.abc', mimeType: 'text/vnd.abc', buffer: Buffer.from(song.join('\n')) };
  await page.getByLabel('A file of notation').setInputFiles(file);
  await expect(page.getByRole('heading', { level: 1, name: 'Rope song' })).toBeVisible();
  const words = page.locator('[data-system] svg text').filter({ hasText: /[a-z]|F$/i });
  for (const word of ['F', 'C7/E', 'Haul-', 'ing', 'rope', 'in'])
    await expect(words.getByText(word, { exact: true })).toBeVisible();
  const text = page.getByLabel('The notes as text');
  await expect(text).toHaveValue(/"F" "_Haul-" F4\/4 "_ing" G4@trill\/4 clef=bass "_rope" A3\/4 \|\n"C7\/E" "_in" E4\/2\./);
  await pick(page, 'Transpose', { label: 'a tone up' });
  await expect(text).toHaveValue(/"G" "_Haul-" G4[\s\S]*"D7\/F#" "_in" F#4/);
  await stored(page);
  const [saved] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Save as ABC' }).click()]);
  expect(await readFile((await saved.path()) ?? '', 'utf8')).toMatch(/"G"G4 !trill!A4 \[K:clef=bass\]B,4 \|\nw:Haul-ing rope/);
  await hasNoViolations(page);
});

test('a passage is transposed with its text, and a bar put in before keeps its marks; both can be undone', async ({ page }) => {
  await page.goto('/material/new');
  const text = page.getByLabel('The notes as text');
  await expect(text).toHaveValue(/title: New passage/);
  await text.fill('title: Tide figure\nmeter: 2/4\nkey: F\ntempo: 80\n\nF4@1/8 G@2 A@3 Bb@4 |');
  const notation = (notes: string) =>
    page.getByRole('img', { name: new RegExp(`^Notation of Tide figure: notes 1 to \\d: ${notes}`) });
  await expect(notation('F 4, G 4, A 4, B flat 4')).toBeVisible();
  // What is changed at once is undone at once.
  await page.waitForTimeout(1000);
  await pick(page, 'Transpose', { label: 'a tone up' });
  await expect(notation('G 4, A 4, B 4, C 5')).toBeVisible();
  await expect(text).toHaveValue(/key: G[\s\S]*G4@1/);
  await stored(page);
  await page.getByRole('button', { name: 'Undo the last change' }).click();
  await expect(notation('F 4, G 4, A 4, B flat 4')).toBeVisible();
  // On the page itself, by keys, as fast as one likes.
  await page.getByRole('button', { name: 'Note 1: 1' }).focus();
  for (const key of ['ArrowUp', 'ArrowUp', 'Shift+ArrowDown', 'ArrowRight', 'ArrowDown']) await page.keyboard.press(key);
  await expect(notation('A flat 4, F 4, A 4, B flat 4')).toBeVisible();
  await expect(text).toHaveValue(/Ab4@1\S* F4@2/);
  await text.fill('title: Tide figure\nmeter: 2/4\nkey: F\ntempo: 80\n\nC5/4 C5 | Ab4@1/8 F4@2 A Bb@4 |');
  await expect(notation('C 5, C 5, A flat 4, F 4, A 4, B flat 4')).toBeVisible();
  await stored(page);
  await expect
    .poll(async () => {
      const { notes, variants } = await storedPassage(page, idOnPage(page));
      return notes.map(({ id }) => variants[0]?.marks[id]?.finger ?? '').join(' ');
    })
    // What was taken out of the text is gone.
    .toBe('  1 2  4');
});

test('notes and bars are edited on the page by keys, and the text says the same', async ({ page }) => {
  await page.goto('/material/new');
  const text = page.getByLabel('The notes as text');
  await expect(text).toHaveValue(/title: New passage/);
  await text.fill('title: Quay figure\nmeter: 2/4\nkey: C\ntempo: 80\n\nC4/4 C | D/8 E F G |');
  const notes = page.getByRole('img', { name: /^Notation of Quay figure/ });
  await expect(notes).toHaveAccessibleName(/notes 1 to 6/);
  const note = (n: number) => page.getByRole('button', { name: new RegExp(`^Note ${n}: `) });
  const press = async (n: number, ...keys: string[]) => {
    await note(n).focus();
    for (const key of keys) await page.keyboard.press(key);
  };
  await press(1, 'j');
  await expect(text).toHaveValue(/C4\/4~ C4\/4 \|/);
  await press(2, 'e', 's', '3');
  // The sound of a note that is tied to has no place of its own: the second place is the next note.
  await expect(text).toHaveValue(/D4@3\/8>'/);
  await press(3, 'Shift+ArrowRight', 'Shift+ArrowRight');
  await expect(text).toHaveValue(/E4\/4 G4\/8/);
  await press(4, 'n', 'x');
  await expect(text).toHaveValue(/E4\/4 r\/8 \|/);
  await expect(note(3)).toBeFocused();
  // Bars: the first is cut and put in before what was the second, twice; the focus stays with the notes.
  await press(1, 'Control+x');
  await expect(text).toHaveValue(/\n\nD4@3/);
  await press(1, 'Control+v', 'Control+v');
  await expect(text).toHaveValue(/C4\/4~ C4\/4 \|\s+C4\/4~ C4\/4 \|\s+D4@3/);
  await stored(page);
  expect(await storedPassage(page, idOnPage(page))).toMatchObject({ bars: 3 });
  await hasNoViolations(page);
  // A bar that is counted in another beat is not put in, and that is said.
  await page.getByRole('link', { name: 'Material', exact: true }).click();
  await expect(page).toHaveURL(/material$/);
  await expect(page.getByLabel('A file of notation')).toBeAttached();
  await page.keyboard.press('n');
  await expect(text).toHaveValue(/title: New passage/);
  await text.fill('title: Other beat\nmeter: 6/8\nkey: C\ntempo: 80\n\nC4/4. D |');
  await expect(page.getByRole('img', { name: /^Notation of Other beat: notes 1 to 2/ })).toBeVisible();
  await press(1, 'Control+v');
  await expect(page.getByText('The copied bars are counted in another beat than this passage.')).toBeVisible();
});

test('several bars are copied and cut at once; meter, key, clef and beat are changed from a bar on, all by keys', async ({
  page,
}) => {
  await page.goto('/material/new');
  const text = page.getByLabel('The notes as text');
  await expect(text).toHaveValue(/title: New passage/);
  await text.fill('title: Groyne figure\nmeter: 2/4\nkey: C\ntempo: 80\n\nC4/4 D | E F | G A | B/2 |');
  await expect(page.getByRole('img', { name: /^Notation of Groyne figure: notes 1 to 7/ })).toBeVisible();
  const press = async (n: number, ...keys: string[]) => {
    await page.getByRole('button', { name: new RegExp(`^Note ${n}: `) }).focus();
    for (const key of keys) await page.keyboard.press(key);
  };
  await press(3, 'v');
  await expect(page.getByText('Bars from 2 on: go to the last of them and press Ctrl with C or X.')).toBeVisible();
  await press(5, 'Control+x');
  await expect(text).toHaveValue(/\n\nC4\/4 D4\/4 \|\nB4\/2 \|/);
  await expect(page.getByText('Bars from 2 on')).toBeHidden();
  await press(3, 'Control+v', 'Control+Enter');
  await expect(text).toHaveValue(/C4\/4 D4\/4 \|\nE4\/4 F4\/4 \|\nG4\/4 A4\/4 \|\nr\/2 \|\nB4\/2 \|/);
  // To the fields of a note's bar and back, by keys alone.
  await press(1, 'f');
  const meter = page.getByLabel('Meter from bar 1');
  await expect(meter).toBeFocused();
  await meter.selectOption('4/4');
  await expect(text).toHaveValue(/meter: 4\/4[\s\S]*C4\/4 D4\/4 E4\/4 F4\/4 \|\nG4\/4 A4\/4 r\/2 \|/);
  await page.keyboard.press('Tab');
  await expect(page.getByLabel('Key from bar 1')).toBeFocused();
  await page.getByLabel('Key from bar 1').selectOption({ label: 'E major, C# minor' });
  await expect(text).toHaveValue(/key: E\n/);
  await page.getByLabel('Clef from bar 1').selectOption('alto');
  await expect(text).toHaveValue(/clef: alto\n/);
  await page.getByLabel('The beat is a').selectOption('1/2');
  await expect(text).toHaveValue(/beat: 1\/2\ntempo: 40\n/);
  await stored(page);
  expect(await storedPassage(page, idOnPage(page))).toMatchObject({
    beatUnit: '1/2',
    goalBpm: 40,
    staves: [{ clef: 'alto' }],
    keys: [{ fifths: 4 }],
    meters: [{ count: 4, unit: 4 }],
  });
  await hasNoViolations(page);
});

test('both hands’ notes are marked by keys, each in a row of its own', async ({ page }) => {
  const before = await storedPassage(page, 'hands-together');
  await page.goto('/material/hands-together');
  await page.getByRole('button', { name: 'Note 2, lower staff: L' }).focus();
  for (const key of ['3', '2', 'ArrowUp']) await page.keyboard.press(key);
  await expect(page.getByRole('button', { name: 'Note 2, lower staff: 3L' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Note 3, lower staff: 2L' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Note 2, upper staff: R' })).toBeVisible();
  // The arrow moved the left hand's fourth note, and only that.
  await expect(page.getByLabel('The notes as text')).toHaveValue(/E3@3\S* G3@2\S* F3/);
  await hasNoViolations(page);
  await stored(page);
  await page.request.put('/api/passages/hands-together', { data: before });
});

test('of a file with several parts the player’s own is chosen by keys, or none', async ({ page }) => {
  const tune = (number: number, title: string, notes: string) => `X:${number}\nT:${title}\nM:2/4\nL:1/8\nK:C\n${notes}|\n\n`;
  const buffer = Buffer.from(
    tune(1, 'Gull step', 'CDEF|GABc') + tune(2, 'Wave step', 'cBAG|FEDC') + tune(3, 'Quay step', 'CECE|GEGE'),
  );
  const file = page.getByLabel('A file of notation');
  const question = page.getByRole('region', { name: 'There is more than one part in “tunes.abc”.' });
  await page.goto('/material');
  await file.setInputFiles({ name: 'tunes.abc', mimeType: 'text/vnd.abc', buffer });
  await expect(question).toBeVisible();
  await hasNoViolations(page);
  await page.getByRole('heading', { level: 1 }).click();
  await page.keyboard.press('Escape');
  await expect(question).toHaveCount(0);
  await file.setInputFiles({ name: 'tunes.abc', mimeType: 'text/vnd.abc', buffer });
  await pick(page, 'Which one do you play?', { label: 'Wave step · 8 notes' });
  await page.getByRole('heading', { level: 1 }).click();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1, name: 'Wave step' })).toBeVisible();
  await expect(page.getByText('Of the tunes of this file this is taken: Wave step.')).toBeVisible();
});

test('the library is searched and tagged; a passage is put away, deleted, and put back', async ({ page }) => {
  await page.goto('/material/in-on-the-upbeat');
  await page.getByLabel('A new tag').fill('evening');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'Take off the tag evening' })).toBeVisible();
  await page.goto('/material');
  await page.getByRole('heading', { level: 1 }).click();
  await page.keyboard.press('/');
  await page.keyboard.type('EVENING');
  await expect(page.getByRole('status').filter({ hasText: '1 passage' })).toBeVisible();
  await page.getByRole('link', { name: 'In on the upbeat', exact: true }).click();
  await page.getByRole('button', { name: 'Put away' }).click();
  await expect(page.getByRole('button', { name: 'Take back into practice' })).toBeVisible();
  await page.goto('/material');
  await expect(page.getByRole('link', { name: 'In on the upbeat', exact: true })).toHaveCount(0);
  await pick(page, 'Show', { label: 'put away' });
  await page.getByRole('link', { name: 'In on the upbeat', exact: true }).click();
  await page.getByRole('button', { name: 'Take back into practice' }).click();
  await page.getByRole('button', { name: 'Delete' }).click();
  await expect(page.getByText('In on the upbeat was deleted.')).toBeVisible();
  await expect(page.getByRole('link', { name: 'In on the upbeat', exact: true })).toHaveCount(0);
  await page.getByRole('button', { name: 'Put it back' }).click();
  await expect(page.getByRole('link', { name: 'In on the upbeat', exact: true })).toBeVisible();
});

test('a pattern is made for the instrument and kept; its sections and the notebook follow it to the Bench', async ({
  page,
}) => {
  await setUpWith(page, { ...simulated(3), playsId: 'snare-drum' });
  await page.goto('/material/patterns');
  await expect.poll(() => picked(page, 'Instrument')).toBe('snare-drum');
  // Flams lead to their notes and are not measured; their page has room for them.
  await pick(page, 'Rudiment', { label: 'flams' });
  await expect(page.getByText('4 times, beginning with the right.')).toBeVisible();
  await hasNoViolations(page);
  await pick(page, 'Pattern', { label: 'Sticking' });
  await pick(page, 'Hands', 'RLRRLRLL');
  await pick(page, 'Times', { label: '4' });
  await page.getByRole('button', { name: 'Keep it' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Sticking: R L R R L R L L' })).toBeVisible();
  const id = idOnPage(page);
  await expect(page.getByText('Bars that repeat:')).toBeVisible();
  await page.getByRole('button', { name: 'Take these as sections' }).click();
  await stored(page);
  await page.getByLabel('What solved it').fill('Let the left stick fall.');
  await page.getByRole('button', { name: 'Write it down' }).click();
  await expect(page.getByText('Let the left stick fall.')).toBeVisible();
  const { sections } = await storedPassage(page, id);
  expect(sections.map(({ name }) => name)).toContain('A');
  await page.goto(`/bench/${id}?section=${sections[0]?.id}`);
  await openPart(page, 'Bars and marks');
  await expect.poll(() => picked(page, /^Bars$/)).toBe(sections[0]?.id ?? '');
  await expect(page.getByTestId('notebook')).toContainText('Let the left stick fall.');
  await page.getByText(/questions not answered/).click();
  await page.getByRole('button', { name: 'Do you know the notes? yes' }).click();
  await expect(page.getByText('4 questions not answered')).toBeVisible();
});

test('eighths that swing are played swung, judged about the player’s own ratio, and the ratio is told', async ({ page }) => {
  await setUpWith(page, simulated(3));
  await page.goto('/material/in-on-the-upbeat');
  await pick(page, /^(Quavers|Eighths)$/, { label: 'swung, as you have it' });
  await stored(page);
  expect((await storedPassage(page, 'in-on-the-upbeat')).swing).toBe('own');
  // The text follows, so that typing on does not make it straight again; a section may.
  await expect(page.getByLabel('The notes as text')).toHaveValue(/^swing: own$/m);
  await pick(page, /^(Quavers|Eighths) there$/, 'straight');
  await pick(page, 'From bar', '2', true);
  await pick(page, 'To bar', '2', true);
  await page.getByRole('button', { name: 'Name these bars' }).click();
  await stored(page);
  await expect(page.getByRole('button', { name: 'Take away the name bar 2' })).toHaveText('bar 2, straight ×');
  expect((await storedPassage(page, 'in-on-the-upbeat')).sections.at(-1)).toMatchObject({
    fromBar: 2,
    toBar: 2,
    swing: 'straight',
  });
  await page.getByRole('button', { name: 'Take away the name bar 2' }).click();
  await stored(page);
  // What has no eighths has no such choice.
  await page.goto('/material/five-steps');
  await expect(page.getByLabel('Goal')).toBeVisible();
  await expect(page.getByLabel(/^(Quavers|Eighths)$/)).toHaveCount(0);
  await openBench(page, 'in-on-the-upbeat', 120, 80);
  await page.keyboard.press('Enter');
  expect((await verdictOf(page, 0)).outcome).toBe('clean');
  await expect(page.locator('[data-figure=swing]')).toContainText(/^[12]\.\d\u00a0?\s?to 1/);
  await page.keyboard.press('Escape');
  await page.getByRole('link', { name: 'See it in the Ledger' }).click();
  await expect(page.getByRole('columnheader', { name: 'Swing' })).toBeVisible();
  const { swing } = (await newestTake(page))?.repetitions[0]?.measures ?? {};
  // The simulated player swings two to one.
  expect(Math.abs((swing?.value ?? 0) - 2)).toBeLessThan(0.3);
});

test('a round of drills goes on by itself, and by a key; two methods together', async ({ page }) => {
  await setUpWith(page, simulated(2));
  await openBench(page, 'five-steps', 200, 150);
  await choose(page, 'Practice method', 'Long and short');
  await expect(page.getByRole('button', { name: 'Groups of 2, the second long' })).toBeVisible();
  await page.getByLabel('Start', { exact: true }).fill('100');
  await page.getByRole('heading', { level: 1 }).click();
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('drill')).toContainText('1 of 2');
  expect(await verdictOf(page, 0)).toMatchObject({ action: 'next', nextBpm: 100 });
  await expect(page.getByTestId('drill')).toContainText('2 of 2: Groups of 2, the second long');
  expect(await verdictOf(page, 1)).toMatchObject({ action: 'raise', nextBpm: 105 });
  await expect(page.getByTestId('drill')).toContainText('1 of 2');
  await page.keyboard.press('n');
  await expect(page.getByTestId('drill')).toContainText('2 of 2');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('link', { name: 'See it in the Ledger' })).toBeVisible();
  const take = await newestTake(page);
  expect(take?.drills.map(({ method }) => method.id)).toEqual(['long-short', 'long-short']);
  expect(take?.repetitions.map(({ drill }) => drill)).toEqual([0, 1]);
  await page.goto('/bench/five-steps');
  await openPart(page, 'Practice method');
  await pick(page, 'Together with', 'arc');
  await expect(page.getByRole('button', { name: 'Groups of 2, the first long · Arc from 60 % and back' })).toBeVisible();
  // Back to how the other tests expect it.
  await pick(page, 'Together with', { label: 'nothing else' });
  await choose(page, 'Practice method', 'Straight');
  await expect
    .poll(
      async () =>
        API.practiceConfigs
          .parse(await (await page.request.get('/api/practice-configs')).json())
          .find(({ passageId }) => passageId === 'five-steps')?.methodId,
    )
    .toBe('straight');
});

test('notes on the page are taken from a MIDI instrument, one after the other', async ({ page }) => {
  await setUpWith(page, { midiPortId: 'virtual' });
  await page.goto('/material/new');
  const text = page.getByLabel('The notes as text');
  await expect(text).toHaveValue(/title: New passage/);
  await text.fill('title: Jetty figure\nmeter: 4/4\nkey: Eb\ntempo: 80\n\nC4/4 C C~ C |');
  const note = (n: number) => page.getByRole('button', { name: new RegExp(`^Note ${n}: `) });
  await note(1).focus();
  const send = (...bytes: number[]) =>
    page.evaluate((message) => {
      window.dispatchEvent(new CustomEvent('isochron-midi', { detail: Uint8Array.from(message) }));
    }, bytes);
  await page.keyboard.press('g');
  await expect(page.getByText('Strike a key of your MIDI instrument')).toBeVisible();
  for (const pitch of [63, 66, 68]) {
    await send(0x90, pitch, 80);
    await send(0x80, pitch, 0);
  }
  // By the key's spelling; what is tied goes along; from the last note it goes no further.
  await expect(text).toHaveValue(/Eb4\/4 Gb4\/4 Ab4\/4~ Ab4\/4 \|/);
  await expect(note(3)).toBeFocused();
  await page.keyboard.press('g');
  await expect(page.getByText('Strike a key of your MIDI instrument')).toBeHidden();
  await send(0x90, 72, 80);
  await stored(page);
  expect((await storedPassage(page, idOnPage(page))).notes.map(({ pitch }) => pitch?.step).join('')).toBe('EGAA');
});

test('a passage is played in by MIDI and written at the nearest places', async ({ page }) => {
  await setUpWith(page, { midiPortId: 'virtual' });
  await page.goto('/material/record');
  await page.getByLabel('Tempo of the click').fill('120');
  await page.getByRole('button', { name: 'Begin' }).click();
  await expect(page.getByRole('button', { name: 'That is all' })).toBeVisible();
  // Eight even notes, half a beat each, from about the first beat after the count-in on.
  await page.evaluate(async () => {
    const send = (...bytes: number[]) =>
      window.dispatchEvent(new CustomEvent('isochron-midi', { detail: Uint8Array.from(bytes) }));
    const wait = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));
    // After the first beat, however long the sound took to begin.
    await wait(4500);
    for (let k = 0; k < 8; k += 1) {
      const from = performance.now();
      send(0x90, 60 + k, 80);
      await wait(200);
      send(0x80, 60 + k, 0);
      await wait(Math.max(0, 250 - (performance.now() - from)));
    }
  });
  await page.getByRole('heading', { level: 1 }).click();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('heading', { level: 1, name: 'Played in' })).toBeVisible();
  const { notes } = await storedPassage(page, idOnPage(page));
  expect(notes.map(({ pitch }) => pitch?.step).join('')).toBe('CCDEEFFG');
});

test('what is shown is heard, and falls silent again', async ({ page }) => {
  await page.goto('/material/five-steps');
  await page.getByRole('button', { name: 'Hear it' }).click();
  await expect(page.getByRole('button', { name: 'Silence' })).toBeVisible();
  await page.getByRole('button', { name: 'Silence' }).click();
  await expect(page.getByRole('button', { name: 'Hear it' })).toBeVisible();
});
