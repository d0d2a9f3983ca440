import type { Metadata } from 'next';
import { may } from '@/core/permissions';
import { TodayScreen } from '@/features/today/today-screen';
import { listInstruments } from '@/server/instruments';
import { pageActor } from '@/server/page';
import { listSites } from '@/server/sites';
import { listNext, listStandings } from '@/server/standing';
import { listQuarantine } from '@/server/tests';

export const metadata: Metadata = { title: 'Today' };

export default async function TodayPage() {
  const actor = await pageActor();
  const { firmId } = actor;
  const [unsealed, fallen, recent, next, instruments, sites, unread] = await Promise.all([
    listStandings(firmId, 50, { only: 'unsealed' }),
    listStandings(firmId, 50, { only: 'alarm' }),
    listStandings(firmId, 8, { only: 'over' }),
    listNext(actor, 6),
    listInstruments(actor),
    listSites(actor),
    listQuarantine(actor),
  ]);
  return (
    <TodayScreen
      unsealed={unsealed}
      fallen={fallen}
      recent={recent}
      next={next}
      instruments={instruments}
      sites={sites.map(({ id, name }) => ({ id, name }))}
      unread={unread}
      maySeal={may(actor.role, 'seal')}
    />
  );
}
