import type { Metadata } from 'next';
import { redirect } from 'next/navigation';
import { FollowUpsToday } from '@/features/follow-ups/follow-ups-today';
import { RunningHolds } from '@/features/today/running-holds';
import { TodayView } from '@/features/today/today-view';
import { listPeople } from '@/server/firms';
import { openFollowUps, shownFollowUp } from '@/server/follow-ups';
import { pageActor } from '@/server/page';
import { readToday } from '@/server/today';

export const metadata: Metadata = { title: 'Today' };

export default async function TodayPage() {
  const actor = await pageActor();
  // A technician's day is on the device, with signal or without.
  if (actor.role === 'technician') redirect('/field');
  const [data, open, people] = [await readToday(actor), await openFollowUps(actor.firmId), await listPeople(actor.firmId)];
  const followUps = open.map(shownFollowUp(new Map(people.map(({ id, name }) => [id, name]))));
  return <TodayView data={data} running={<RunningHolds />} followUps={<FollowUpsToday followUps={followUps} />} />;
}
