import type { Metadata } from 'next';
import { TodayScreen } from '@/features/today/today-screen';
import { listInstruments } from '@/server/instruments';
import { pageActor } from '@/server/page';
import { listSites } from '@/server/sites';
import { listTests } from '@/server/tests';

export const metadata: Metadata = { title: 'Today' };

export default async function TodayPage() {
  const actor = await pageActor();
  const [tests, instruments, sites] = await Promise.all([listTests(actor, 60), listInstruments(actor), listSites(actor)]);
  return <TodayScreen tests={tests} instruments={instruments} sites={sites} />;
}
