import { and, eq, sql } from 'drizzle-orm';
import { SMTPServer } from 'smtp-server';
import { withFirm, withoutFirm } from '@/db/connection';
import { message } from '@/db/schema';
import { nowDate } from './clock';
import { setting } from './environment';
import { log } from './log';

/* Notices about mail that was sent: that it could not be delivered, or that it was. Each mail has an address of its own to send them to. */

/** Host of the addresses that notices come back to. */
export const mailHost = (): string => {
  const { hostname } = new URL(setting('VAST_ADDRESS'));
  return hostname.includes('.') && !/^[\d.]+$/.test(hostname) ? hostname : 'vast-stone.invalid';
};

/** What a notice about a mail is sent to: it names the mail. */
export const noticeAddress = (id: string): string => `notice+${id}@${mailHost()}`;

/** What a notice says became of a mail. */
async function noted(id: string, state: 'bounced' | 'delivered', said: string): Promise<boolean> {
  const { rows } = await withoutFirm((tx) => tx.execute<{ firm_id: string }>(sql`select * from firm_of_message(${id})`));
  const [owner] = rows;
  if (owner === undefined) return false;
  return withFirm(owner.firm_id, async (tx) => {
    const changed = await tx
      .update(message)
      .set({ state, said: said.slice(0, 400), settledAt: nowDate() })
      .where(and(eq(message.id, id), sql`${message.state} in ('sent', 'delivered', 'waiting')`))
      .returning({ id: message.id });
    return changed.length > 0;
  });
}

/**
 * Takes a delivery notice (a report with the fields Action, Status and Diagnostic-Code, RFC 3464) by the address that it came to, which
 * names the mail. Answers whether it changed anything.
 */
export async function takeNotice(raw: string, to: string): Promise<boolean> {
  const id = /^notice\+([0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12})@/i.exec(to)?.[1];
  const action = /^Action:\s*(failed|delivered)\s*$/im.exec(raw)?.[1]?.toLowerCase();
  if (id === undefined || action === undefined) return false;
  const why = /^Diagnostic-Code:\s*(?:smtp;\s*)?(.+)$/im.exec(raw)?.[1] ?? /^Status:\s*(.+)$/im.exec(raw)?.[1] ?? action;
  return noted(id, action === 'failed' ? 'bounced' : 'delivered', why.trim());
}

const largest = 256 * 1024;

/** Listens for notices that a real mail server hands on, where VAST_NOTICE_PORT names a port; nothing else is taken there. */
export function startNotices(): () => void {
  const port = Number(process.env.VAST_NOTICE_PORT ?? 0);
  if (!Number.isInteger(port) || port <= 0) return () => undefined;
  const server = new SMTPServer({
    authOptional: true,
    disabledCommands: ['AUTH', 'STARTTLS'],
    size: largest,
    onRcptTo: ({ address }, _, done) =>
      done(address.startsWith('notice+') ? null : Object.assign(new Error('5.7.1 only notices are taken here'), { responseCode: 550 })),
    onData: (stream, { envelope }, done) => {
      const pieces: Buffer[] = [];
      let size = 0;
      stream.on('data', (piece: Buffer) => {
        size += piece.length;
        if (size <= largest) pieces.push(piece);
      });
      stream.on('end', () => {
        const raw = Buffer.concat(pieces).toString('utf8');
        Promise.all(envelope.rcptTo.map(({ address }) => takeNotice(raw, address))).then(() => done(), done);
      });
    },
  });
  server.on('error', (error) => log().warn({ kind: error.name }, 'notices'));
  server.listen(port, process.env.VAST_NOTICE_HOST ?? '127.0.0.1');
  return () => server.close();
}
