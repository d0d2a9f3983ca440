import { randomUUID } from 'node:crypto';
import { and, asc, desc, eq } from 'drizzle-orm';
import { array, object, string } from 'yup';
import { checkHouseRule, checkVariant, type HouseRule, type Variant } from '@/core/planning';
import { procedureById } from '@/core/procedures';
import { type Transaction, withFirm } from '@/db/connection';
import { DatabaseFault } from '@/db/fault';
import { houseRule, ownProcedure } from '@/db/schema';
import { type Actor, refusedTo } from './actor';
import { type Answer, answer, isUuid, notFound, refuse } from './answers';
import { nowDate } from './clock';
import { checked } from './forms';

/* The firm's house rules and own procedures, by version: nothing is changed in place, so an old plan's rule can be found. */

export interface HouseRuleVersion extends HouseRule {
  readonly version: number;
  readonly lifted: boolean;
  readonly setBy: string;
  readonly setAt: string;
}

export interface OwnProcedureVersion extends Variant {
  readonly withdrawn: boolean;
  readonly publishedBy: string;
  readonly publishedAt: string;
}

/** Every version of every house rule, the newest first. */
export const houseRuleHistory = (firmId: string): Promise<readonly HouseRuleVersion[]> =>
  withFirm(firmId, async (tx) => {
    const rows = await tx.select().from(houseRule).orderBy(asc(houseRule.procedure), asc(houseRule.figure), desc(houseRule.version));
    return rows.map(({ procedure, figure, value, reference, version, lifted, setBy, setAt }) => ({
      procedure,
      figure,
      value,
      reference,
      version,
      lifted,
      // Rules that were set before versions were kept have no name.
      setBy: setBy === '' ? 'not recorded' : setBy,
      setAt: setAt.toISOString(),
    }));
  });

/** House rules that hold now. */
export const listHouseRules = async (firmId: string): Promise<readonly HouseRule[]> =>
  (await houseRuleHistory(firmId))
    .filter(({ procedure, figure, lifted }, index, all) => {
      const newest = all.findIndex((one) => one.procedure === procedure && one.figure === figure);
      return newest === index && !lifted;
    })
    .map(({ procedure, figure, value, reference }) => ({ procedure, figure, value, reference }));

/** Every version of every own procedure, the newest of each first. */
export const ownProcedureHistory = (firmId: string): Promise<readonly OwnProcedureVersion[]> =>
  withFirm(firmId, async (tx) => {
    const rows = await tx.select().from(ownProcedure).orderBy(asc(ownProcedure.variantId), desc(ownProcedure.version));
    return rows.map(({ variantId, version, base, title, reference, figures, withdrawn, publishedBy, publishedAt }) => ({
      id: variantId,
      version: String(version),
      base,
      title,
      reference,
      figures,
      withdrawn,
      publishedBy,
      publishedAt: publishedAt.toISOString(),
    }));
  });

/** Own procedures that can be planned now: the newest version of each that was not withdrawn. */
export const listOwnProcedures = async (firmId: string): Promise<readonly Variant[]> =>
  (await ownProcedureHistory(firmId))
    .filter(({ id, withdrawn }, index, all) => all.findIndex((one) => one.id === id) === index && !withdrawn)
    .map(({ id, base, title, version, reference, figures }) => ({ id, base, title, version, reference, figures }));

const changedMeanwhile = refuse(409, 'changed-meanwhile', 'Somebody else changed it just now. Look at the page again, then decide.');

/** Two supervisors at once: the second finds the version taken, and looks again. */
async function appending<T>(firmId: string, work: (tx: Transaction) => Promise<Answer<T>>): Promise<Answer<T>> {
  try {
    return await withFirm(firmId, work);
  } catch (error) {
    if (error instanceof DatabaseFault && error.isDuplicate) return changedMeanwhile;
    throw error;
  }
}

const ruleForm = object({
  procedure: string().required('Name the procedure.'),
  figure: string().required('Name the figure.'),
  value: string()
    .trim()
    .default('')
    .max(20, 'Keep the figure under 20 characters.')
    .transform((text: string) => text.replace(',', '.')),
  reference: string().trim().default('').max(200, 'Keep the reference under 200 characters.'),
});

/** Sets a house rule as its next version; the core refuses one that is looser than the procedure. */
export async function setHouseRule(actor: Actor, form: unknown): Promise<Answer<{ readonly version: number }>> {
  const refused = refusedTo(actor, 'set rules');
  if (refused !== undefined) return refused;
  const input = await checked(ruleForm, form);
  if (!input.ok) return input;
  const procedure = procedureById(input.value.procedure);
  if (procedure === undefined) return refuse(400, 'procedure-unknown', `There is no procedure “${input.value.procedure}”.`);
  const result = checkHouseRule(procedure, input.value);
  if (!result.ok) return { ok: false, status: 400, problem: result.problem };
  return writeRule(actor, input.value, false);
}

/** Lifts a house rule: the procedure's own figure holds again. `reference` says why. */
export async function liftHouseRule(actor: Actor, form: unknown): Promise<Answer<{ readonly version: number }>> {
  const refused = refusedTo(actor, 'set rules');
  if (refused !== undefined) return refused;
  const input = await checked(ruleForm, form);
  if (!input.ok) return input;
  const { procedure, figure, reference } = input.value;
  if (reference === '') return refuse(400, 'form', 'Say why it is lifted.', 'reference');
  const held = (await listHouseRules(actor.firmId)).find((one) => one.procedure === procedure && one.figure === figure);
  return held === undefined ? notFound : writeRule(actor, { ...held, reference }, true);
}

const writeRule = (actor: Actor, rule: HouseRule, lifted: boolean) =>
  appending(actor.firmId, async (tx) => {
    const [last] = await tx
      .select({ version: houseRule.version })
      .from(houseRule)
      .where(and(eq(houseRule.procedure, rule.procedure), eq(houseRule.figure, rule.figure)))
      .orderBy(desc(houseRule.version))
      .limit(1);
    const version = (last?.version ?? 0) + 1;
    await tx
      .insert(houseRule)
      .values({ ...rule, id: randomUUID(), firmId: actor.firmId, version, lifted, setBy: actor.name, setAt: nowDate() });
    return answer({ version });
  });

const ownForm = object({
  id: string(),
  base: string().required('Name the procedure that it is a copy of.'),
  title: string().trim().default('').max(80, 'Keep the title under 80 characters.'),
  reference: string().trim().default('').max(80, 'Keep the code’s reference under 80 characters.'),
  figures: array(
    object({
      figure: string().required(),
      value: string()
        .trim()
        .max(20, 'Keep the figure under 20 characters.')
        .default('')
        .transform((text: string) => text.replace(',', '.')),
    }),
  )
    .max(100)
    .default([]),
});

/** Publishes an own procedure: its first version, or the next of one that stands. */
export async function publishOwnProcedure(actor: Actor, form: unknown): Promise<Answer<{ readonly id: string; readonly version: number }>> {
  const refused = refusedTo(actor, 'set rules');
  if (refused !== undefined) return refused;
  const input = await checked(ownForm, form);
  if (!input.ok) return input;
  const { id = randomUUID(), base, title, reference, figures } = input.value;
  const procedure = procedureById(base);
  if (procedure === undefined) return refuse(400, 'procedure-unknown', `There is no procedure “${base}”.`);
  if (!isUuid(id)) return notFound;
  const [problem] = checkVariant(procedure, { id, base, title, version: '1', reference, figures });
  if (problem !== undefined) return { ok: false, status: 400, problem };
  if (figures.length === 0) return refuse(400, 'variant-same', 'Change at least one figure; as it stands it is the procedure itself.');
  return writeOwn(actor, { id, base, title, reference, figures }, false, input.value.id !== undefined);
}

/** Withdraws an own procedure: it can be planned no more; tests that ran under it keep it. */
export async function withdrawOwnProcedure(actor: Actor, id: string): Promise<Answer<{ readonly id: string; readonly version: number }>> {
  const refused = refusedTo(actor, 'set rules');
  if (refused !== undefined) return refused;
  const standing = (await listOwnProcedures(actor.firmId)).find((one) => one.id === id);
  return standing === undefined ? notFound : writeOwn(actor, standing, true, true);
}

const writeOwn = (actor: Actor, own: Omit<Variant, 'version'>, withdrawn: boolean, stands: boolean) =>
  appending(actor.firmId, async (tx) => {
    const [last] = await tx
      .select({ version: ownProcedure.version, base: ownProcedure.base })
      .from(ownProcedure)
      .where(eq(ownProcedure.variantId, own.id))
      .orderBy(desc(ownProcedure.version))
      .limit(1);
    if (stands && last === undefined) return notFound;
    if (last !== undefined && last.base !== own.base)
      return refuse(400, 'variant-base', 'It was published as a copy of another procedure. Publish a new one instead.', 'base');
    const version = (last?.version ?? 0) + 1;
    const { id: variantId, base, title, reference, figures } = own;
    await tx.insert(ownProcedure).values({
      id: randomUUID(),
      firmId: actor.firmId,
      variantId,
      version,
      base,
      title,
      reference,
      figures,
      withdrawn,
      publishedBy: actor.name,
      publishedAt: nowDate(),
    });
    return answer({ id: variantId, version });
  });
