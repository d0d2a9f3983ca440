import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';

export const themes = ['limestone', 'basalt', 'noon'] as const;

/** Faults against WCAG 2.2 A and AA that a machine can find, each with where it is. */
export async function faults(page: Page, theme: (typeof themes)[number] = 'limestone'): Promise<readonly string[]> {
  const builder = new AxeBuilder({ page });
  // The themes differ in nothing but colour.
  const asked =
    theme === 'limestone'
      ? builder.withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'])
      : builder.withRules(['color-contrast']);
  const { violations } = await asked.analyze();
  return violations.flatMap(({ id, nodes }) =>
    nodes.map(({ target, failureSummary }) => `${id} at ${target.join(' ')}: ${failureSummary}`),
  );
}
