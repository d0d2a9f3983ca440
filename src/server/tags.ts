import { randomUUID } from 'node:crypto';
import { and, eq, gte, sql } from 'drizzle-orm';
import { type EventOf, type GuardLook, guardLooks } from '@/core/judging';
import { dayText, momentText } from '@/core/papers';
import { decimalsOf, type InstrumentUnit, readDecimal, unitLabel } from '@/core/quantities';
import type { PaperLocale } from '@/core/record';
import { type Transaction, withFirm, withoutFirm } from '@/db/connection';
import { event, firm, followUp, site, system } from '@/db/schema';
import { type Answer, answer, notFound, refuse } from './answers';
import { now, nowDate } from './clock';
import { appendEvents } from './events';
import { loadTest } from './tests';
import { offsetOfZone } from './zones';

/* The tag on a guard gauge: whoever stands before it types its reading, without an account. Nothing else can be done by it. */

/** Looks by one tag in a day: more are a game or a mistake. */
const mostADay = 12;
/** What stands as the author of a look by the tag. */
export const byTag = 'by tag';

const found = async (code: string): Promise<{ readonly firmId: string; readonly id: string } | undefined> => {
  if (!/^[A-HJ-NP-Z2-9]{10}$/.test(code)) return undefined;
  const { rows } = await withoutFirm((tx) => tx.execute<{ firm_id: string; id: string }>(sql`select * from find_tag(${code})`));
  return rows[0] === undefined ? undefined : { firmId: rows[0].firm_id, id: rows[0].id };
};

/** A look as it is shown. */
export interface ShownLook {
  readonly at: number;
  /** Its day, and its moment, by the clock of the place. */
  readonly day: string;
  readonly moment: string;
  readonly value: string;
  readonly says?: string;
  readonly alarm: boolean;
}

export interface Tag {
  readonly firm: string;
  readonly firmNumber: string;
  readonly system: string;
  readonly site: string;
  readonly ended: boolean;
  readonly unit: InstrumentUnit;
  readonly readability: string;
  /** The looks so far, the first is how it was left. */
  readonly looks: readonly ShownLook[];
}

async function tagOf(tx: Transaction, id: string) {
  const [row] = await tx
    .select({ ended: followUp.endedAt, testId: followUp.testId, system: system.name, site: site.name })
    .from(followUp)
    .innerJoin(system, eq(system.id, followUp.systemId))
    .innerJoin(site, eq(site.id, followUp.siteId))
    .where(eq(followUp.id, id));
  const test = row?.testId == null ? undefined : await loadTest(tx, row.testId);
  const last = test?.attempts.at(-1);
  if (row === undefined || test === undefined || last === undefined) return undefined;
  const events = [...test.attempts.flatMap((one) => one.events), ...test.watch];
  return { row, test, run: last, looks: guardLooks(last.plan, events) };
}

const shown = ({ event: { observedAt, offsetMinutes, value }, state }: GuardLook, locale: PaperLocale): ShownLook => ({
  at: observedAt,
  day: dayText(observedAt, offsetMinutes, locale),
  moment: momentText(observedAt, offsetMinutes, locale),
  value,
  alarm: state?.alarm === true,
  ...(state === undefined ? {} : { says: state.sentence }),
});

/** What a tag shows to whoever holds it: one gauge, and how it was left. */
export async function readTag(code: string): Promise<Answer<Tag>> {
  const at = await found(code);
  if (at === undefined) return notFound;
  return withFirm(at.firmId, async (tx) => {
    const tag = await tagOf(tx, at.id);
    const [own] = await tx.select({ name: firm.name, number: firm.emergencyNumber, locale: firm.locale }).from(firm);
    if (tag === undefined || own === undefined) return notFound;
    return answer({
      firm: own.name,
      firmNumber: own.number,
      system: tag.row.system,
      site: tag.row.site,
      ended: tag.row.ended !== null,
      unit: tag.run.plan.gauge.unit,
      readability: tag.run.plan.gauge.readability,
      looks: tag.looks.map((look) => shown(look, own.locale)),
    });
  });
}

export interface TagLook {
  readonly alarm: boolean;
  readonly says: string;
  /** The day of the last look that was in order: between it and now it fell. */
  readonly since?: string;
}

/** Takes a reading by a tag: a look at that guard gauge and nothing else, a few a day, until its follow-up ends. */
export async function readByTag(code: string, input: { readonly value?: unknown }): Promise<Answer<TagLook>> {
  const at = await found(code);
  if (at === undefined) return notFound;
  const typed = typeof input.value === 'string' ? input.value.trim().replace(',', '.') : '';
  const before = await withFirm(
    at.firmId,
    async (tx): Promise<Answer<NonNullable<Awaited<ReturnType<typeof tagOf>>> & { readonly count: number }>> => {
      const tag = await tagOf(tx, at.id);
      if (tag === undefined) return notFound;
      if (tag.row.ended !== null) return refuse(409, 'tag-ended', 'This gauge is not watched any more. Ask the firm.');
      const [{ count }] = await tx
        .select({ count: sql<number>`count(*)::int` })
        .from(event)
        .where(
          and(
            eq(event.runId, tag.run.id),
            gte(event.receivedAt, new Date(now() - 86_400_000)),
            sql`${event.event} ->> 'author' = ${byTag}`,
          ),
        );
      if (count >= mostADay)
        return refuse(429, 'too-often', 'This gauge was read often enough today. Try again tomorrow, or ring the firm.');
      const { unit, readability, rangeLow, rangeHigh } = tag.run.plan.gauge;
      const value = readDecimal(typed);
      if (value === undefined || typed.length > 12)
        return refuse(400, 'form', `Type the figure that the gauge shows, in ${unitLabel(unit)}.`, 'value');
      if (Number(typed) < Number(rangeLow) || Number(typed) > Number(rangeHigh))
        return refuse(
          400,
          'form',
          `The gauge shows ${rangeLow} to ${rangeHigh} ${unitLabel(unit)}: ${typed} cannot be. Look again.`,
          'value',
        );
      if (decimalsOf(typed) > decimalsOf(readability))
        return refuse(400, 'form', `The gauge shows steps of ${readability} ${unitLabel(unit)}: type what it shows, no more.`, 'value');
      return answer({ ...tag, count });
    },
  );
  if (!before.ok) return before;
  const { run, looks, count } = before.value;
  const [own] = await withFirm(at.firmId, (tx) => tx.select({ zone: firm.zone }).from(firm));
  const look: EventOf<'guard'> = {
    schema: 1,
    run: run.id,
    id: randomUUID(),
    device: `tag ${code}`,
    seq: looks.length + count + 1,
    author: byTag,
    observedAt: now(),
    enteredAt: now(),
    offsetMinutes: offsetOfZone(own?.zone ?? 'UTC', now()),
    boot: `tag ${nowDate().toISOString().slice(0, 10)}`,
    mono: 0,
    type: 'guard',
    value: typed,
    unit: run.plan.gauge.unit,
    source: 'keypad',
  };
  const kept = await appendEvents({ userId: byTag, firmId: at.firmId, name: byTag, role: 'technician' }, run.id, [look]);
  if (!kept.ok) return kept;
  if (kept.value.quarantined.length > 0) return refuse(409, 'not-kept', 'This could not be kept. Ring the firm and tell them the figure.');
  const after = await readTag(code);
  if (!after.ok) return after;
  const last = after.value.looks.at(-1);
  const good = after.value.looks.slice(0, -1).findLast(({ alarm }) => !alarm);
  return answer({
    alarm: last?.alarm === true,
    says: last?.says ?? 'Kept: this is how it was left.',
    ...(last?.alarm === true && good !== undefined ? { since: good.day } : {}),
  });
}
