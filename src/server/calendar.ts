import { and, asc, eq, isNull, or, sql } from 'drizzle-orm';
import { createEvents, type EventAttributes } from 'ics';
import { followUpWords, type KnownInstrument } from '@/core/register';
import { withFirm, withoutFirm } from '@/db/connection';
import { calendarFeed, followUp, site, system } from '@/db/schema';
import type { Actor } from './actor';
import { type Answer, answer, isUuid, notFound, refuse } from './answers';
import { nowDate } from './clock';
import { setting } from './environment';
import { knownInstruments } from './instruments';
import { isHere, newToken, tokenHash } from './tokens';

/* Follow-ups as entries of a calendar: one as a file, a person's all as an address that a calendar program asks for itself. */

interface Entry {
  readonly id: string;
  readonly kind: keyof typeof followUpWords;
  readonly due: string;
  readonly what: string;
  readonly createdAt: Date;
  readonly system: string;
  readonly site: string;
  readonly address: string;
}

const entries = (firmId: string, where: ReturnType<typeof and>): Promise<readonly Entry[]> =>
  withFirm(firmId, (tx) =>
    tx
      .select({
        id: followUp.id,
        kind: followUp.kind,
        due: followUp.due,
        what: followUp.what,
        createdAt: followUp.createdAt,
        system: system.name,
        site: site.name,
        address: site.address,
      })
      .from(followUp)
      .innerJoin(system, eq(system.id, followUp.systemId))
      .innerJoin(site, eq(site.id, followUp.siteId))
      .where(where)
      .orderBy(asc(followUp.due))
      .limit(500),
  );

/** A whole day, by its date and no clock: it is the same day wherever it is read. */
function onDay(due: string, uid: string, title: string): EventAttributes {
  const [year, month, day] = due.split('-').map(Number);
  const next = new Date(Date.UTC(year, month - 1, day + 1));
  return {
    uid: `${uid}@vast-stone`,
    title,
    start: [year, month, day],
    end: [next.getUTCFullYear(), next.getUTCMonth() + 1, next.getUTCDate()],
    url: `${setting('VAST_ADDRESS')}/today`,
    productId: 'vast-stone',
    busyStatus: 'FREE',
  };
}

const asEvent = ({ id, kind, due, what, createdAt, system: of, site: at, address }: Entry): EventAttributes => ({
  ...onDay(due, id, `${followUpWords[kind].title}: ${of}`),
  location: `${at}, ${address}`,
  ...(what === '' ? {} : { description: what }),
  created: [
    createdAt.getUTCFullYear(),
    createdAt.getUTCMonth() + 1,
    createdAt.getUTCDate(),
    createdAt.getUTCHours(),
    createdAt.getUTCMinutes(),
  ],
});

/** A calibration that falls due; a new one ends it. */
const dueEvent = ({ id, name, serial, calibration }: KnownInstrument): readonly EventAttributes[] =>
  calibration.needed ? [onDay(calibration.due, `${id}-${calibration.due}`, `Calibrate: ${name}${serial === '' ? '' : `, ${serial}`}`)] : [];

const empty = ['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:vast-stone', 'END:VCALENDAR', ''].join('\r\n');

function asCalendar(list: readonly EventAttributes[]): Answer<string> {
  // A calendar without entries is one too.
  if (list.length === 0) return answer(empty);
  const { value, error } = createEvents([...list], { calName: 'Vast Stone' });
  return value == null ? refuse(500, 'calendar', error?.message ?? 'The calendar could not be written.') : answer(value);
}

/** One follow-up as a calendar file. */
export async function calendarOf(actor: Actor, id: string): Promise<Answer<string>> {
  if (!isUuid(id)) return notFound;
  const list = await entries(actor.firmId, and(eq(followUp.id, id)));
  return list.length === 0 ? notFound : asCalendar(list.map(asEvent));
}

/** A new private calendar address of a person; the one before leads nowhere from then on. */
export async function makeFeed(actor: Actor): Promise<Answer<{ readonly address: string }>> {
  const token = newToken();
  return withFirm(actor.firmId, async (tx) => {
    const row = { firmId: actor.firmId, person: actor.userId, tokenHash: tokenHash(token), madeAt: nowDate() };
    await tx
      .insert(calendarFeed)
      .values(row)
      .onConflictDoUpdate({ target: [calendarFeed.firmId, calendarFeed.person], set: { tokenHash: row.tokenHash, madeAt: row.madeAt } });
    return answer({ address: `${setting('VAST_ADDRESS')}/api/feed/${token}` });
  });
}

/** Open follow-ups of whoever the address belongs to and those that are anybody's, and calibrations that fall due. */
export async function feedOf(token: string): Promise<Answer<string>> {
  if (!/^[A-Za-z0-9_-]{32}$/.test(token)) return notFound;
  const { rows } = await withoutFirm((tx) =>
    tx.execute<{ firm_id: string; person: string }>(sql`select * from find_feed(${tokenHash(token)})`),
  );
  const [of] = rows;
  if (of === undefined || !(await withFirm(of.firm_id, (tx) => isHere(tx, of.person)))) return notFound;
  const list = await entries(of.firm_id, and(isNull(followUp.endedAt), or(eq(followUp.person, of.person), eq(followUp.person, ''))));
  const instruments = await withFirm(of.firm_id, (tx) => knownInstruments(tx));
  return asCalendar([...list.map(asEvent), ...instruments.filter(({ putAway }) => !putAway).flatMap(dueEvent)]);
}
