import { AxeBuilder } from '@axe-core/playwright';
import { expect, type Page } from '@playwright/test';

/** Of a long list the first rows: what follows is made of the same, and each takes its time to check. */
const REST_OF_A_LIST = ':is(tr, li, [role="row"], [role="listitem"]):nth-child(n + 13)';

const CONTRAST = 'color-contrast';
const checker = (page: Page): AxeBuilder =>
  new AxeBuilder({ page }).options({ resultTypes: ['violations'] }).exclude(REST_OF_A_LIST);

/** WCAG 2.2 AA and the checker's own good practice, in the light that the page is drawn in. */
export async function expectNothingFound(page: Page): Promise<void> {
  await expectThere(page);
  expect(await found(checker(page))).toEqual([]);
}

/** The same but for colours, which a width does not change. */
export async function expectNothingFoundInShape(page: Page): Promise<void> {
  await expectThere(page);
  expect(await found(checker(page).disableRules(CONTRAST))).toEqual([]);
}

/** A page is fetched when it is first seen. */
const expectThere = (page: Page): Promise<void> => expect(page.locator('h1').first()).toBeAttached();

/**
 * The same by day, and the contrast in the other lights. A light changes nothing but colours: what a page is made of is
 * looked at once.
 */
export async function expectNothingFoundInAnyLight(page: Page): Promise<void> {
  await expectNothingFound(page);
  for (const light of ['dusk', 'red']) {
    await turnLight(page, light);
    const colours = await found(checker(page).withRules(CONTRAST));
    expect(colours.map((words) => `${light}: ${words}`)).toEqual([]);
  }
  await turnLight(page, 'day');
}

/** Until every colour has arrived. */
const turnLight = (page: Page, light: string): Promise<void> =>
  page.evaluate(async (wanted) => {
    document.documentElement.dataset.light = wanted;
    const changes = document.getAnimations().filter((one) => one instanceof CSSTransition);
    await Promise.allSettled(changes.map(({ finished }) => finished));
  }, light);

async function found(checks: AxeBuilder): Promise<string[]> {
  const { violations } = await checks.analyze();
  return violations.map(
    ({ id, nodes }) =>
      `${id}: ${nodes.map(({ html, failureSummary }) => `${html} ${failureSummary}`).join('\n')}`,
  );
}
