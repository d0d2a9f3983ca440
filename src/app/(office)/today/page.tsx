import type { Metadata } from 'next';
import { redirect } from 'next/navigation';
import { RunningHolds } from '@/features/today/running-holds';
import { TodayView } from '@/features/today/today-view';
import { pageActor } from '@/server/page';
import { readToday } from '@/server/today';

export const metadata: Metadata = { title: 'Today' };

export default async function TodayPage() {
  const actor = await pageActor();
  // A technician's day is on the device, with signal or without.
  if (actor.role === 'technician') redirect('/field');
  return <TodayView data={await readToday(actor)} running={<RunningHolds />} />;
}
