import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';

/**
 * What keeps assistive technology from a page, rule by rule, with the elements at fault. All is looked at in the page itself,
 * which has no frames of other origins; only what is wrong is worked out to the end.
 */
export async function barriersOf(page: Page): Promise<(readonly [rule: string, elements: string[]])[]> {
  const axe = new AxeBuilder({ page }).options({ resultTypes: ['violations'] }).setLegacyMode(true);
  const { violations } = await axe.analyze();
  return violations.map(({ id, nodes }) => [id, nodes.map((node) => node.html.slice(0, 160))] as const);
}
