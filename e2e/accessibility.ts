import { AxeBuilder } from '@axe-core/playwright';
import { expect, type Page } from '@playwright/test';

/** The lights that a page can be drawn in. */
export const LIGHTS = ['day', 'dusk', 'red'] as const;

/**
 * WCAG 2.2 AA and the checker's own good practice. A light changes nothing but colours: what a page is made of is
 * looked at by day, its contrast in each light.
 */
export async function expectNothingFound(page: Page, light: (typeof LIGHTS)[number] = 'day'): Promise<void> {
  const checker = new AxeBuilder({ page });
  const { violations } = await (light === 'day' ? checker : checker.withRules('color-contrast')).analyze();
  const told = violations.map(
    ({ id, nodes }) =>
      `${id}: ${nodes.map(({ html, failureSummary }) => `${html} ${failureSummary}`).join('\n')}`,
  );
  expect(told).toEqual([]);
}
