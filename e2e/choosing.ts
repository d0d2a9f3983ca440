import type { Locator, Page } from '@playwright/test';

/* How a person answers on these screens: one of a few side by side, one of a list, or one that is known already and opened first. */

type Scope = Page | Locator;
const pageOf = (scope: Scope): Page => ('page' in scope ? scope.page() : scope);
const named = (text: string): RegExp => new RegExp(`^${text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')}`);

/** Opens an answer that is known already, so that it can be changed. */
export async function open(scope: Scope, label: string): Promise<void> {
  const known = scope.getByRole('button', { name: new RegExp(`${named(`${label} `).source}.*, ?change it$`) });
  if ((await known.count()) > 0) await known.first().click();
}

/** Chooses by the words of the label and of the answer. */
export async function choose(scope: Scope, label: string, option: string | RegExp): Promise<void> {
  await open(scope, label);
  const group = scope.getByRole('radiogroup', { name: label, exact: true });
  const list = scope.getByRole('combobox', { name: label, exact: true });
  await group.or(list).first().waitFor();
  const words = typeof option === 'string' ? { name: option, exact: true } : { name: option };
  if ((await group.count()) > 0) return group.first().getByRole('radio', words).click();
  await list.first().click();
  await pageOf(scope).getByRole('option', words).first().click();
}

/** What is chosen, in its words. */
export async function chosen(scope: Scope, label: string): Promise<string> {
  const group = scope.getByRole('radiogroup', { name: label, exact: true });
  const list = scope.getByRole('combobox', { name: label, exact: true });
  await group.or(list).first().waitFor();
  return (await group.count()) > 0
    ? await group.first().getByRole('radio', { checked: true }).innerText()
    : (await list.first().innerText()).trim();
}

/** Types into a question, also one that is known already. */
export async function fill(scope: Scope, label: string, text: string): Promise<Locator> {
  await open(scope, label);
  // What is tapped can be typed too.
  const lines = scope.getByRole('button', { name: `Type it as lines: ${label}`, exact: true });
  if ((await lines.count()) > 0) await lines.click();
  const field = scope.getByLabel(label, { exact: true });
  await field.fill(text);
  return field;
}

/** Opens a part that is folded; one that stands open already stays so. */
export async function unfold(scope: Scope, title: string | RegExp): Promise<void> {
  await scope.getByRole('button', { name: title }).first().waitFor();
  await unfoldIfThere(scope, title);
}

/** The same where there may be no such part. */
export async function unfoldIfThere(scope: Scope, title: string | RegExp): Promise<void> {
  const trigger = scope.getByRole('button', { name: title, expanded: false });
  if ((await trigger.count()) === 0) return;
  // A list that is planned anew meanwhile may have nothing left to fold.
  await trigger
    .first()
    .click({ timeout: 5000 })
    .catch(async (error) => {
      if ((await trigger.count()) > 0) throw error;
    });
}
