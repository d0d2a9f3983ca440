import type { Metadata } from 'next';
import { may } from '@/core/permissions';
import { MailView } from '@/features/mail/mail-view';
import { listMessages, shownMessage } from '@/server/mail';
import { isStandIn, readStandIn, standInModes } from '@/server/mail-stand-in';
import { pageActor } from '@/server/page';

export const metadata: Metadata = { title: 'Mail' };

/** What went to whom. The stand-in keeps mail of every firm on it, so only whoever sets the firm up in a demo or trial sees it. */
export default async function MailPage() {
  const actor = await pageActor();
  const messages = (await listMessages(actor)).map(shownMessage);
  if (!isStandIn() || !may(actor.role, 'set firm')) return <MailView messages={messages} />;
  const { mode, got } = readStandIn();
  const own = new Set(messages.map(({ id }) => id));
  return (
    <MailView
      messages={messages}
      standIn={{ mode, modes: standInModes, got: got.filter(({ messageId }) => own.has(messageId.slice(1, 37))) }}
    />
  );
}
