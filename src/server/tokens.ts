import { randomBytes } from 'node:crypto';
import { and, eq, isNull } from 'drizzle-orm';
import { sha256 } from '@/core/exact';
import type { Transaction } from '@/db/connection';
import { person } from '@/db/schema';

/* Secrets that are told once and kept as a hash: whoever reads the database can enter nowhere by what stands there. */

/** 192 bits of chance. */
export const newToken = (): string => randomBytes(24).toString('base64url');

/** What is kept of it. */
export const tokenHash = (token: string): string => sha256(token);

/** Whether somebody still works here: what they could open by a token of theirs closes when they leave. */
export async function isHere(tx: Transaction, userId: string): Promise<boolean> {
  const rows = await tx
    .select({ id: person.id })
    .from(person)
    .where(and(eq(person.id, userId), isNull(person.putAwayAt)));
  return rows.length > 0;
}
