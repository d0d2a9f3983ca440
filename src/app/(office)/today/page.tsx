import type { Metadata } from 'next';
import { TodayScreen } from '@/features/today/today-screen';
import { listInstruments } from '@/server/instruments';
import { pageActor } from '@/server/page';
import { listSites } from '@/server/sites';
import { listQuarantine, listTests } from '@/server/tests';

export const metadata: Metadata = { title: 'Today' };

export default async function TodayPage() {
  const actor = await pageActor();
  const [tests, instruments, sites, unread] = await Promise.all([
    listTests(actor, 60),
    listInstruments(actor),
    listSites(actor),
    listQuarantine(actor),
  ]);
  return <TodayScreen tests={tests} instruments={instruments} sites={sites} unread={unread} />;
}
