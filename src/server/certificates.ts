import { and, desc, eq, sql } from 'drizzle-orm';
import type { TestRecord } from '@/core/record';
import { withFirm, withoutFirm } from '@/db/connection';
import { certificate, certificateTest } from '@/db/schema';
import type { Actor } from './actor';
import { type Answer, answer, isUuid, notFound } from './answers';

/* Sealed papers: the register of them, and what anyone may know who holds a code. */

export type Certificate = typeof certificate.$inferSelect;

export const listCertificates = (actor: Actor) =>
  withFirm(actor.firmId, async (tx) => {
    const rows = await tx
      .select({
        id: certificate.id,
        testId: certificateTest.testId,
        number: certificate.number,
        verdict: certificate.verdict,
        issuedAt: certificate.issuedAt,
        corrects: certificate.corrects,
        site: certificate.site,
        simulated: certificate.simulated,
        system: certificate.system,
      })
      .from(certificate)
      .innerJoin(certificateTest, and(eq(certificateTest.certificateId, certificate.id), eq(certificateTest.place, 1)))
      .orderBy(desc(certificate.issuedAt), desc(certificate.number));
    return rows;
  });

export async function readCertificate(actor: Actor, id: string): Promise<Answer<Certificate & { readonly parsed: TestRecord }>> {
  if (!isUuid(id)) return notFound;
  return withFirm(actor.firmId, async (tx) => {
    const [found] = await tx.select().from(certificate).where(eq(certificate.id, id));
    return found === undefined ? notFound : answer({ ...found, parsed: JSON.parse(found.record) as TestRecord });
  });
}

export interface PublicFacts {
  readonly number: string;
  readonly verdict: string;
  readonly issuedAt: Date;
  readonly firmName: string;
  readonly hash: string;
  readonly correctedBy?: string;
  readonly revoked: boolean;
  /** Its readings came from a simulated gauge. */
  readonly simulated: boolean;
}

/** What anyone who holds the code may know; no account. */
export async function checkByCode(code: string): Promise<PublicFacts | undefined> {
  if (!/^[0-9a-f]{32}$/.test(code)) return undefined;
  return withoutFirm(async (tx) => {
    const { rows } = await tx.execute<{
      number: string;
      verdict: string;
      issued_at: string | Date;
      firm_name: string;
      hash: string;
      corrected_by: string | null;
      revoked: boolean;
      simulated: boolean;
    }>(sql`select * from check_certificate(${code})`);
    const [row] = rows;
    if (row === undefined) return undefined;
    return {
      number: row.number,
      verdict: row.verdict,
      issuedAt: new Date(row.issued_at),
      firmName: row.firm_name,
      hash: row.hash,
      revoked: row.revoked,
      simulated: row.simulated,
      ...(row.corrected_by === null ? {} : { correctedBy: row.corrected_by }),
    };
  });
}
