import { eq, inArray } from 'drizzle-orm';
import { canonical, sha256 } from '@/core/exact';
import { type RecordedFirm, recordFormat, recordVersion, type Signature, signerRoles, type TestRecord } from '@/core/record';
import { type Transaction, withFirm } from '@/db/connection';
import { firm, standing, system, test } from '@/db/schema';
import type { Actor } from './actor';
import { type Answer, answer, isUuid, notFound, refuse } from './answers';
import { missingIn } from './pdf';
import { type LoadedTest, loadTests, verdictOf } from './tests';

/* A paper before it is sealed: the record of its tests as they stand, and what stands between them and the seal. */

/** What a signature binds: the judgements of all attempts of its test. A later event changes them, and so voids it. */
export const judgementHash = (one: Pick<LoadedTest, 'attempts'>): string =>
  sha256(canonical(one.attempts.map(({ judgement }) => judgement)));

/** Photographs that events name, by run and hash. */
const namedPhotos = ({ attempts }: Pick<LoadedTest, 'attempts'>) =>
  attempts.flatMap(({ id, events }) =>
    [...new Map(events.filter((one) => one.type === 'photo').map((one) => [one.hash, one] as const)).values()].map(({ hash, takenAt }) => ({
      run: id,
      hash,
      takenAt,
    })),
  );

/** The signatures of a test that still bind it, one of each role. */
function binding(one: LoadedTest): readonly Signature[] {
  const hash = judgementHash(one);
  const signatures = one.signatures
    .filter((signed) => signed.judgementHash === hash)
    .map(
      (signed): Signature => ({
        role: signed.role,
        name: signed.name,
        ...(signed.absent === null ? {} : { absent: signed.absent }),
        ...(signed.refused ? { refused: true as const } : {}),
        ...(signed.remote ? { remote: true as const } : {}),
        signedAt: signed.signedAt.getTime(),
        strokes: signed.strokes,
        judgementHash: signed.judgementHash,
      }),
    );
  return signerRoles.flatMap((role) => signatures.findLast((signed) => signed.role === role) ?? []);
}

/** The firm as its papers state it; what nobody stated is left out. */
export async function recordedFirm(tx: Transaction): Promise<RecordedFirm & { readonly countersign: boolean; readonly zone: string }> {
  const [found] = await tx.select().from(firm);
  if (found === undefined) return { name: '', countersign: false, zone: 'UTC' };
  const stated = Object.entries({
    address: found.address,
    registration: found.registration,
    emergency: found.emergencyNumber,
    supplier: found.supplierNumber,
    logo: found.logo,
  }).filter(([, text]) => text !== '');
  return {
    name: found.name,
    ...Object.fromEntries(stated),
    sheet: found.sheet,
    locale: found.locale,
    countersign: found.countersign,
    zone: found.zone,
  };
}

/** The record of tests as they stand, not yet numbered or sealed. */
function toRecord(
  tests: readonly LoadedTest[],
  { countersign: _, zone: __, ...own }: Awaited<ReturnType<typeof recordedFirm>>,
): TestRecord {
  const [first] = tests;
  const people = [...new Map(tests.flatMap((one) => one.people.map((person) => [person.id, person] as const))).values()];
  return {
    format: recordFormat,
    version: recordVersion,
    firm: own,
    site: { name: first.site.name, address: first.site.address, occupier: first.site.occupier },
    tests: tests.map((one) => ({
      system: { name: one.system.name, kind: one.system.kind, components: one.components },
      details: { id: one.test.id, ...one.test.details, technician: one.test.author },
      attempts: one.attempts.map(({ id, number: count, plan, events, judgement }) => ({
        run: id,
        number: count,
        plan,
        events,
        judgement,
      })),
    })),
    people: people.map(({ id, name, licence }) => ({ id, name, ...(licence === '' ? {} : { licence }) })),
    photos: tests.flatMap((one) =>
      namedPhotos(one).map((photo) => {
        const kept = one.photos.find(({ runId, hash }) => runId === photo.run && hash === photo.hash);
        return kept === undefined ? photo : { ...photo, stored: kept.storedHash, copy: kept.copyHash };
      }),
    ),
    signatures: tests.flatMap(binding),
  };
}

export interface Draft {
  readonly record: TestRecord;
  readonly tests: readonly LoadedTest[];
  /** What stands between this paper and its seal; empty when it can be sealed. */
  readonly missing: readonly string[];
  /** Photographs that are named and have not come; it is sealed without them only where that is asked for, and says so. */
  readonly photosOnTheWay: number;
  /** Signatures that a later event voided. */
  readonly voided: readonly string[];
  /** Who has signed for all of its tests. */
  readonly signed: readonly Signature['role'][];
  /** A supervisor is to sign as well. */
  readonly countersign: boolean;
}

/** The photographs that are here, each with what it is evidence of. */
export const photographsIn = ({ attempts, photos }: LoadedTest): readonly { readonly hash: string; readonly label: string }[] =>
  attempts.flatMap(({ id, number, plan, events }) =>
    events.flatMap((event) => {
      if (event.type !== 'photo' || !photos.some(({ runId, hash }) => runId === id && hash === event.hash)) return [];
      const label = plan.evidence?.find((one) => one.id === event.slot)?.label ?? 'Photograph';
      return [{ hash: event.hash, label: attempts.length > 1 ? `${label}, attempt ${number}` : label }];
    }),
  );

/** Whether the last attempt was to go on in another one, and never did. */
const leftOpen = ({ attempts }: LoadedTest): boolean =>
  attempts.at(-1)?.judgement?.reasons.some(({ code }) => code === 'continued') === true;

/** What a test by itself still lacks before anybody can sign for it. */
function unfinished(one: LoadedTest): readonly string[] {
  const [unread] = one.unread;
  return [
    ...(unread === undefined
      ? []
      : [`Attempt ${unread.number} cannot be read here, so it proves nothing and cannot be printed: ${unread.why}`]),
    ...((verdictOf(one)?.verdict ?? 'in progress') === 'in progress'
      ? ['The test is still in progress: finish it, closing steps included.']
      : []),
    ...(leftOpen(one) ? ['The last attempt left its closing steps to another that was not made: finish them there.'] : []),
  ];
}

const lacks: Readonly<Record<Signature['role'], string>> = {
  technician: 'The technician’s signature.',
  customer: 'The customer’s or a witness’s signature, or why there is none.',
  supervisor: 'The supervisor’s countersignature.',
};

export function toDraft(tests: readonly LoadedTest[], own: Awaited<ReturnType<typeof recordedFirm>>): Draft {
  const record = toRecord(tests, own);
  const signed = signerRoles.filter((role) => tests.every((one) => binding(one).some((signature) => signature.role === role)));
  const wanted = signerRoles.filter((role) => role !== 'supervisor' || own.countersign);
  const several = tests.length > 1;
  const open = tests.flatMap((one) => unfinished(one).map((line) => (several ? `${one.system.name}: ${line}` : line)));
  const signs = open.length > 0 ? [] : missingIn(record);
  return {
    record,
    tests,
    missing: [
      ...open,
      ...wanted.filter((role) => !signed.includes(role)).map((role) => lacks[role]),
      ...(signs.length === 0
        ? []
        : [
            `A font that has ${signs.length === 1 ? 'this sign' : 'these signs'}: ${signs.slice(0, 20).join(' ')}. Ask whoever runs this installation to add one (VAST_FONTS in docs/operations.md), or write the name in other letters.`,
          ]),
    ],
    photosOnTheWay: (record.photos ?? []).filter(({ stored }) => stored === undefined).length,
    voided: tests.flatMap((one) => {
      const hash = judgementHash(one);
      return one.signatures.filter((signature) => signature.judgementHash !== hash).map(({ name, absent }) => absent ?? name);
    }),
    signed,
    countersign: own.countersign,
  };
}

/** Tests that one paper may gather at most. */
const most = 20;

/** The tests of a paper, the one that it was asked for first; refused where they are not all of one site and of this firm. */
export async function testsOfPaper(tx: Transaction, testId: string, others: readonly string[]): Promise<Answer<readonly LoadedTest[]>> {
  const ids = [...new Set([testId, ...others])];
  if (ids.length > most) return refuse(400, 'too-many-tests', `One paper gathers at most ${most} tests. Make two.`);
  if (!ids.every(isUuid)) return notFound;
  const tests = await loadTests(tx, ids);
  if (tests.length !== ids.length) return notFound;
  if (new Set(tests.map(({ site }) => site.id)).size > 1)
    return refuse(409, 'other-site', 'One paper is of one site: these tests were made at different ones.');
  return answer(tests);
}

export async function readDraft(actor: Actor, testId: string, others: readonly string[] = []): Promise<Answer<Draft>> {
  return withFirm(actor.firmId, async (tx) => {
    const tests = await testsOfPaper(tx, testId, others);
    return tests.ok ? answer(toDraft(tests.value, await recordedFirm(tx))) : tests;
  });
}

export interface OtherTest {
  readonly id: string;
  readonly system: string;
  readonly verdict: string;
  readonly createdAt: Date;
}

/** Other finished tests of the same site that no paper is of yet: what one paper of the visit can gather. */
export const othersOfVisit = (actor: Actor, testId: string): Promise<readonly OtherTest[]> =>
  withFirm(actor.firmId, async (tx) => {
    const [own] = await tx
      .select({ siteId: system.siteId })
      .from(test)
      .innerJoin(system, eq(system.id, test.systemId))
      .where(eq(test.id, testId));
    if (own === undefined) return [];
    const systems = await tx.select({ id: system.id, name: system.name }).from(system).where(eq(system.siteId, own.siteId));
    const rows = await tx
      .select({
        id: standing.testId,
        systemId: standing.systemId,
        verdict: standing.verdict,
        createdAt: standing.createdAt,
        certificate: standing.certificate,
      })
      .from(standing)
      .where(
        inArray(
          standing.systemId,
          systems.map(({ id }) => id),
        ),
      );
    return rows
      .filter((row) => row.id !== testId && row.verdict !== 'in progress' && row.certificate === null)
      .map(({ id, systemId, verdict, createdAt }) => ({
        id,
        verdict,
        createdAt,
        system: systems.find((one) => one.id === systemId)?.name ?? '',
      }))
      .sort((a, b) => b.createdAt.getTime() - a.createdAt.getTime())
      .slice(0, most - 1);
  });
