import AxeBuilder from '@axe-core/playwright';
import { expect, type Page } from '@playwright/test';

/** Checks a page against the rules of axe, once nothing on it moves any more. */
export const hasNoViolations = async (page: Page): Promise<void> => {
  await page.waitForFunction(() => document.getAnimations().every((animation) => animation.playState !== 'running'));
  const { violations } = await new AxeBuilder({ page }).analyze();
  expect(violations.map(({ id, nodes }) => `${id}: ${nodes[0]?.html}`)).toEqual([]);
};
