import { eq } from 'drizzle-orm';
import { withFirm } from '@/db/connection';
import { firm } from '@/db/schema';

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
