import type { Metadata } from 'next';
import { may } from '@/core/permissions';
import { FirmView } from '@/features/firm/firm-view';
import { listPeople, readFirmSettings } from '@/server/firms';
import { pageActor } from '@/server/page';

export const metadata: Metadata = { title: 'Firm' };

/** What the firm states of itself on its papers, and its people's licences. */
export default async function FirmPage() {
  const actor = await pageActor();
  const [settings, people] = [await readFirmSettings(actor), await listPeople(actor.firmId)];
  return <FirmView settings={settings} people={people} mayChange={may(actor.role, 'set firm')} />;
}
