import { asc, eq, isNull } from 'drizzle-orm';
import { withFirm } from '@/db/connection';
import { firm, person } from '@/db/schema';

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

/** Everybody who works for the firm, by name. */
export const listPeople = (firmId: string) =>
  withFirm(firmId, (tx) =>
    tx
      .select({ id: person.id, name: person.name, role: person.role })
      .from(person)
      .where(isNull(person.putAwayAt))
      .orderBy(asc(person.name)),
  );
