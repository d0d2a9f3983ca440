import { randomBytes, randomUUID } from 'node:crypto';
import { sql } from 'drizzle-orm';
import { accounts, closeConnections } from '@/db/connection';
import { user } from '@/db/schema';
import { addPerson } from '@/server/auth';
import { addFirm } from '@/server/firms';
import { rotateKey } from '@/server/keys';

/** An empty installation gets one firm and one supervisor, whose password is printed once. */
const [{ people }] = await accounts().select({ people: sql<number>`count(*)::int` }).from(user);
if (people === 0) {
  const firmId = randomUUID();
  const password = randomBytes(9).toString('base64url');
  await addFirm(firmId, 'New firm', 'the emergency number of your region');
  await rotateKey(firmId);
  await addPerson({ firmId, name: 'Supervisor', email: 'supervisor@firm.invalid', password, role: 'supervisor' });
  console.log(`Sign in as supervisor@firm.invalid with the password ${password} (shown only now).`);
}
await closeConnections();
