import AxeBuilder from '@axe-core/playwright';
import { expect, type Page } from '@playwright/test';

/** Checks a page against the rules of axe, or some of them, once nothing on it moves any more. */
export const hasNoViolations = async (page: Page, rules?: string[]): Promise<void> => {
  await page.waitForFunction(() => document.getAnimations().every((animation) => animation.playState !== 'running'));
  const axe = new AxeBuilder({ page });
  const { violations } = await (rules ? axe.withRules(rules) : axe).analyze();
  expect(violations.map(({ id, nodes }) => `${id}: ${nodes[0]?.html}`)).toEqual([]);
};
