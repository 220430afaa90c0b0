import type { Page } from '@playwright/test';
import axe from 'axe-core';

/**
 * What keeps assistive technology from a page, rule by rule, with the elements at fault. A page is given the rules once, however
 * often it is asked; only what is wrong is worked out to the end.
 */
export async function barriersOf(page: Page): Promise<(readonly [rule: string, elements: string[]])[]> {
  if (!(await page.evaluate(() => 'axe' in window))) await page.evaluate(axe.source);
  const violations = await page.evaluate(async () => {
    const rules = (window as unknown as { axe: typeof axe }).axe;
    return (await rules.run(document, { resultTypes: ['violations'] })).violations;
  });
  return violations.map(({ id, nodes }) => [id, nodes.map((node) => node.html.slice(0, 160))] as const);
}
