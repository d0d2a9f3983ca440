import type { AddressInfo } from 'node:net';
import PostalMime from 'postal-mime';
import { SMTPServer } from 'smtp-server';
import { now } from './clock';
import { log } from './log';
import { takeNotice } from './mail-notices';

/*
 * A simulated mail server on the loopback, for an installation that has none: it keeps and shows what it got and hands nothing on. It
 * can be told to refuse, to be busy, to be slow, to be down, and to send the notices that a real one sends days later.
 */

export const standInModes = ['takes', 'refuses', 'is busy', 'is slow', 'bounces later', 'is down'] as const;
export type StandInMode = (typeof standInModes)[number];

export interface GotMail {
  readonly at: number;
  readonly from: string;
  readonly to: string;
  readonly subject: string;
  readonly text: string;
  readonly messageId: string;
  readonly attachments: readonly { readonly name: string; readonly bytes: number }[];
}

interface StandIn {
  mode: StandInMode;
  server?: SMTPServer;
  port?: number;
  readonly got: GotMail[];
}

const most = 200;
const shared = globalThis as { __vastStoneStandIn?: StandIn };
const standIn = (): StandIn => {
  shared.__vastStoneStandIn ??= { mode: 'takes', got: [] };
  return shared.__vastStoneStandIn;
};

/** A refusal as a mail server words it. */
const answered = (code: number, text: string) => Object.assign(new Error(text), { responseCode: code });

function listening(): SMTPServer {
  return new SMTPServer({
    authOptional: true,
    disabledCommands: ['AUTH', 'STARTTLS'],
    banner: 'simulated mail server of Vast Stone',
    size: 40 * 1024 * 1024,
    onRcptTo: ({ address }, _, done) => {
      const { mode } = standIn();
      if (mode === 'refuses') return done(answered(550, `5.1.1 <${address}>: no such mailbox here (simulated)`));
      if (mode === 'is busy') return done(answered(451, '4.3.2 too busy just now, try again later (simulated)'));
      done();
    },
    onData: (stream, session, done) => {
      const pieces: Buffer[] = [];
      stream.on('data', (piece: Buffer) => pieces.push(piece));
      stream.on('end', () => {
        const wait = standIn().mode === 'is slow' ? 5000 : 0;
        setTimeout(() => void take(Buffer.concat(pieces), session).then(() => done(), done), wait);
      });
    },
  });
}

interface Session {
  readonly envelope: { readonly mailFrom: false | { readonly address: string }; readonly rcptTo: readonly { readonly address: string }[] };
}

async function take(raw: Buffer, { envelope }: Session): Promise<void> {
  const own = standIn();
  const mail = await PostalMime.parse(raw);
  const sender = envelope.mailFrom === false ? '' : envelope.mailFrom.address;
  own.got.unshift({
    at: now(),
    from: sender,
    to: envelope.rcptTo.map(({ address }) => address).join(', '),
    subject: mail.subject ?? '',
    text: mail.text ?? '',
    messageId: mail.messageId ?? '',
    attachments: mail.attachments.map(({ filename, content }) => ({
      name: filename ?? '',
      bytes: typeof content === 'string' ? content.length : content.byteLength,
    })),
  });
  own.got.length = Math.min(own.got.length, most);
  if (own.mode === 'bounces later') {
    const [to] = envelope.rcptTo;
    await takeNotice(notice(sender, to.address), sender);
  }
}

/** A delivery notice as mail servers write it: that a mail could not be delivered. */
const notice = (to: string, about: string): string =>
  [
    `To: ${to}`,
    'Subject: Undelivered mail returned to sender (simulated)',
    'MIME-Version: 1.0',
    'Content-Type: multipart/report; report-type=delivery-status; boundary="part"',
    '',
    '--part',
    'Content-Type: text/plain',
    '',
    'Your mail could not be delivered.',
    '--part',
    'Content-Type: message/delivery-status',
    '',
    'Reporting-MTA: dns; simulated',
    '',
    `Final-Recipient: rfc822; ${about}`,
    'Action: failed',
    'Status: 5.2.2',
    'Diagnostic-Code: smtp; 552 5.2.2 mailbox full (simulated)',
    '--part--',
    '',
  ].join('\r\n');

/** Where it listens; it begins to when it is first asked for. */
export async function standInAddress(): Promise<string> {
  const own = standIn();
  if (own.server === undefined && own.mode !== 'is down') await listen(own);
  // Where nobody listens a connection is refused, as by a server that is down.
  return `smtp://127.0.0.1:${own.port ?? 9}`;
}

async function listen(own: StandIn): Promise<void> {
  const server = listening();
  server.on('error', (error) => log().warn({ kind: error.name }, 'mail stand-in'));
  await new Promise<void>((resolve) => server.listen(own.port ?? 0, '127.0.0.1', resolve));
  own.server = server;
  own.port = (server.server.address() as AddressInfo).port;
}

export const readStandIn = (): { readonly mode: StandInMode; readonly got: readonly GotMail[] } => {
  const { mode, got } = standIn();
  return { mode, got };
};

/** Tells it what to do from now on. */
export async function setStandIn(mode: StandInMode): Promise<void> {
  const own = standIn();
  own.mode = mode;
  if (mode === 'is down') {
    const { server } = own;
    own.server = undefined;
    if (server !== undefined) await new Promise<void>((resolve) => server.close(resolve));
  } else if (own.server === undefined) await listen(own);
}

/** Whether mail goes to the stand-in: no real server is set. */
export const isStandIn = (): boolean => (process.env.VAST_SMTP_URL ?? '') === '';
