import { randomUUID } from 'node:crypto';
import { eq } from 'drizzle-orm';
import { checkHouseRule, type HouseRule } from '@/core/planning/plan';
import { procedureById } from '@/core/procedures';
import { withFirm } from '@/db/connection';
import { firm, houseRule } from '@/db/schema';
import { type Actor, may } from './actor';
import { type Answer, answer, forbidden, refuse } from './answers';

export const addFirm = (id: string, name: string, emergencyNumber: string): Promise<void> =>
  withFirm(id, async (tx) => {
    await tx.insert(firm).values({ id, name, emergencyNumber });
  });

export const readFirm = (firmId: string) =>
  withFirm(firmId, async (tx) => {
    const [found] = await tx
      .select({ id: firm.id, name: firm.name, emergencyNumber: firm.emergencyNumber })
      .from(firm)
      .where(eq(firm.id, firmId));
    return found;
  });

export const listHouseRules = (firmId: string): Promise<readonly HouseRule[]> =>
  withFirm(firmId, (tx) =>
    tx
      .select({ procedure: houseRule.procedure, figure: houseRule.figure, value: houseRule.value, reference: houseRule.reference })
      .from(houseRule),
  );

/** Sets a house rule; the core refuses one that is looser than the procedure. */
export async function setHouseRule(actor: Actor, rule: HouseRule): Promise<Answer<null>> {
  if (!may(actor.role, 'correct')) return forbidden('Only supervisors set house rules.');
  const procedure = procedureById(rule.procedure);
  if (procedure === undefined) return refuse(400, 'procedure-unknown', `There is no procedure “${rule.procedure}”.`);
  const result = checkHouseRule(procedure, rule);
  if (!result.ok) return { ok: false, status: 400, problem: result.problem };
  return withFirm(actor.firmId, async (tx) => {
    await tx
      .insert(houseRule)
      .values({ id: randomUUID(), firmId: actor.firmId, ...rule })
      .onConflictDoUpdate({
        target: [houseRule.firmId, houseRule.procedure, houseRule.figure],
        set: { value: rule.value, reference: rule.reference },
      });
    return answer(null);
  });
}
