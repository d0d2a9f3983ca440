import type { Metadata } from 'next';
import { may } from '@/core/permissions';
import { InstrumentsScreen } from '@/features/instruments/instruments-screen';
import { listInstruments } from '@/server/instruments';
import { pageActor } from '@/server/page';

export const metadata: Metadata = { title: 'Instruments' };

export default async function InstrumentsPage() {
  const actor = await pageActor();
  return <InstrumentsScreen instruments={await listInstruments(actor)} mayEdit={may(actor.role, 'edit instruments')} />;
}
