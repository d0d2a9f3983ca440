import { and, desc, eq, sql } from 'drizzle-orm';
import type { TestRecord } from '@/core/record';
import { withFirm, withoutFirm } from '@/db/connection';
import { certificate, certificateTest, withdrawal } from '@/db/schema';
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
        withdrawnAt: withdrawal.at,
      })
      .from(certificate)
      .innerJoin(certificateTest, and(eq(certificateTest.certificateId, certificate.id), eq(certificateTest.place, 1)))
      .leftJoin(withdrawal, eq(withdrawal.certificateId, certificate.id))
      .orderBy(desc(certificate.issuedAt), desc(certificate.number));
    return rows;
  });

export interface Read extends Certificate {
  readonly parsed: TestRecord;
  readonly withdrawn?: { readonly at: number; readonly reason: string };
}

export async function readCertificate(actor: Actor, id: string): Promise<Answer<Read>> {
  if (!isUuid(id)) return notFound;
  return withFirm(actor.firmId, async (tx) => {
    const [found] = await tx.select().from(certificate).where(eq(certificate.id, id));
    if (found === undefined) return notFound;
    const [gone] = await tx.select().from(withdrawal).where(eq(withdrawal.certificateId, id));
    return answer({
      ...found,
      parsed: JSON.parse(found.record) as TestRecord,
      ...(gone === undefined ? {} : { withdrawn: { at: gone.at.getTime(), reason: gone.reason } }),
    });
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
  /** It is to be relied on no more. */
  readonly withdrawn?: { readonly at: Date; readonly reason: string };
  /** Its readings came from a simulated gauge. */
  readonly simulated: boolean;
  /** It was sealed in another installation, and came in then with the firm's data. */
  readonly importedAt?: Date;
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
      withdrawn_at: string | Date | null;
      withdrawn_because: string | null;
      imported_at: string | Date | null;
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
      ...(row.withdrawn_at === null ? {} : { withdrawn: { at: new Date(row.withdrawn_at), reason: row.withdrawn_because ?? '' } }),
      ...(row.corrected_by === null ? {} : { correctedBy: row.corrected_by }),
      ...(row.imported_at === null ? {} : { importedAt: new Date(row.imported_at) }),
    };
  });
}
