import type { Metadata } from 'next';
import { InstrumentsView } from '@/features/instruments/instruments-view';
import { allInstruments } from '@/server/instruments';
import { pageActor } from '@/server/page';

export const metadata: Metadata = { title: 'Instruments' };

export default async function InstrumentsPage() {
  return <InstrumentsView {...(await allInstruments(await pageActor()))} />;
}
