import { and, eq, sql } from 'drizzle-orm';
import { createTransport, type Transporter } from 'nodemailer';
import type { TestRecord } from '@/core/record';
import { withFirm, withoutFirm } from '@/db/connection';
import { certificate, firm, message } from '@/db/schema';
import { now, nowDate } from './clock';
import { remindDue } from './follow-ups';
import { faultFacts, log } from './log';
import { noLongerGood } from './mail';
import { mailHost, noticeAddress, startNotices } from './mail-notices';
import { standInAddress } from './mail-stand-in';
import { onWake } from './mail-wake';
import { counted } from './metrics';
import { pagesOf } from './papers';

/*
 * Sends what lies in the outbox. A row is the job: it is taken by moving its next try behind the time that one takes, so that a worker
 * that dies leaves it to the next, and two workers never send the same at once. The clock is the server’s own.
 */

const minute = 60_000;
/** Waits after each try that failed for now; about three days in all. */
export const waits = [1, 5, 15, 60, 180, 360, 720, 1440, 1440].map((minutes) => minutes * minute);
/** Longer than a try can take. */
const leaseMs = 3 * minute;
const atOnce = 20;

let transport: { readonly of: string; readonly it: Transporter } | undefined;

/** The server that mail is handed to: a real one by VAST_SMTP_URL, else the stand-in that ships with the program. */
async function server(): Promise<Transporter> {
  const address = process.env.VAST_SMTP_URL ?? (await standInAddress());
  if (transport?.of !== address) {
    transport?.it.close();
    transport = {
      of: address,
      it: createTransport(address),
    };
  }
  return transport.it;
}

type MakesPages = typeof pagesOf;
type Due = typeof message.$inferSelect;

/** Takes what is due, each once, and sends it. Answers how many there were. */
export async function sendDue(make: MakesPages = pagesOf): Promise<number> {
  const { rows } = await withoutFirm((tx) =>
    tx.execute<{ firm_id: string; id: string }>(sql`select * from due_messages(${nowDate().toISOString()}, ${atOnce})`),
  );
  for (const { firm_id: firmId, id } of rows) {
    const taken = await withFirm(firmId, async (tx) => {
      const [row] = await tx
        .select()
        .from(message)
        .where(and(eq(message.id, id), eq(message.state, 'waiting'), sql`${message.nextAt} <= ${nowDate()}`))
        .for('update', { skipLocked: true });
      if (row === undefined) return undefined;
      await tx
        .update(message)
        .set({ tries: row.tries + 1, nextAt: new Date(now() + leaseMs) })
        .where(eq(message.id, id));
      return { ...row, tries: row.tries + 1 };
    });
    if (taken !== undefined) await settle(taken, await sendOne(taken, make));
  }
  return rows.length;
}

type Came = { readonly is: 'sent' | 'refused' | 'later'; readonly said: string };

/** It was put into the outbox before it was withdrawn or corrected. */
class NoLongerGood extends Error {}

async function sendOne(row: Due, make: MakesPages): Promise<Came> {
  try {
    const { from, attachments } = await dressed(row, make);
    const info = await (await server()).sendMail({
      from,
      to: row.recipient,
      subject: row.subject,
      text: row.body,
      // The same mail sent twice is one mail to whoever gets it.
      messageId: `<${row.id}@${mailHost()}>`,
      date: row.createdAt,
      envelope: { from: noticeAddress(row.id), to: row.recipient },
      dsn: { id: row.id, return: 'headers', notify: ['failure', 'delay'], recipient: row.recipient },
      attachments,
    });
    return { is: 'sent', said: info.response ?? 'taken' };
  } catch (error) {
    if (error instanceof NoLongerGood) return { is: 'refused', said: error.message };
    const { responseCode, response, code } = error as { responseCode?: number; response?: string; code?: string };
    const words = error instanceof Error && error.message !== '' ? error.message : `no mail server answers (${code ?? 'unknown'})`;
    const said = (response ?? words).replace(/\s+/g, ' ').slice(0, 400);
    if (responseCode !== undefined && responseCode >= 500 && code !== 'EAUTH') return { is: 'refused', said };
    log().warn({ code, responseCode }, 'mail not sent');
    return { is: 'later', said };
  }
}

/** Who it is from, and the paper that goes with it, made now. */
async function dressed(row: Due, make: MakesPages) {
  const [own, paper, gone] = await withFirm(row.firmId, async (tx) => {
    const [found] = await tx.select({ name: firm.name, mail: firm.mail }).from(firm);
    const [sealed] = row.certificateId === null ? [] : await tx.select().from(certificate).where(eq(certificate.id, row.certificateId));
    return [found, sealed, row.certificateId === null ? undefined : await noLongerGood(tx, row.certificateId)] as const;
  });
  if (gone !== undefined) throw new NoLongerGood(gone);
  const pages = paper === undefined ? undefined : await make(row.firmId, JSON.parse(paper.record) as TestRecord);
  if (pages !== undefined && !pages.ok) throw new Error(pages.problem.message);
  return {
    from: { name: own?.name ?? '', address: process.env.VAST_MAIL_FROM ?? `papers@${mailHost()}` },
    ...(own === undefined || own.mail === '' ? {} : { replyTo: own.mail }),
    attachments:
      pages === undefined || paper === undefined
        ? []
        : [{ filename: `certificate-${paper.number}.pdf`, content: Buffer.from(pages.value), contentType: 'application/pdf' }],
  };
}

async function settle({ firmId, id, tries }: Due, { is, said }: Came): Promise<void> {
  counted('mails');
  const wait = waits[tries - 1];
  const next =
    is === 'sent' || is === 'refused'
      ? { state: is, said, settledAt: nowDate() }
      : wait === undefined
        ? { state: 'given up' as const, said, settledAt: nowDate() }
        : { said, nextAt: new Date(now() + wait) };
  await withFirm(firmId, (tx) =>
    tx
      .update(message)
      .set(next)
      .where(and(eq(message.id, id), eq(message.state, 'waiting'))),
  );
}

const lookEveryMs = 10_000;
/** What is due is due by the day. */
const remindEveryMs = 10 * minute;

/** Sends from now on: at once what is put into the outbox here, and every few seconds what is due. Answers what ends it. */
export function startMail(): () => void {
  let busy = false;
  let remindedAt = Number.NEGATIVE_INFINITY;
  let again = false;
  const look = () => {
    again = true;
    if (!busy) void work();
  };
  const work = async () => {
    busy = true;
    while (again) {
      again = false;
      try {
        if (now() - remindedAt > remindEveryMs) {
          remindedAt = now();
          await remindDue();
        }
        if ((await sendDue()) === atOnce) again = true;
      } catch (error) {
        log().warn(faultFacts(error), 'mail worker');
      }
    }
    busy = false;
  };
  onWake(look);
  const stopNotices = startNotices();
  const timer = setInterval(look, lookEveryMs);
  timer.unref();
  look();
  return () => {
    clearInterval(timer);
    stopNotices();
    onWake(() => undefined);
  };
}
