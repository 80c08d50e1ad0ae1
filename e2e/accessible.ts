import AxeBuilder from '@axe-core/playwright';
import { expect, type Page } from '@playwright/test';

/** What moves is put at its end: a colour read in the middle of its change is nobody's. */
const STILL = '*, *::before, *::after { transition: none !important; animation: none !important; }';

/** Checks a page against the rules of axe, or some of them, with nothing on it moving. */
export const hasNoViolations = async (page: Page, rules?: string[]): Promise<void> => {
  await page.addStyleTag({ content: STILL });
  await page.evaluate(() => new Promise((resolve) => requestAnimationFrame(() => requestAnimationFrame(resolve))));
  const axe = new AxeBuilder({ page });
  const { violations } = await (rules ? axe.withRules(rules) : axe).analyze();
  expect(violations.map(({ id, nodes }) => `${id}: ${nodes[0]?.html}`)).toEqual([]);
};
