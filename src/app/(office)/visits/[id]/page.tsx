import type { Metadata } from 'next';
import { VisitView } from '@/features/visits/visit-view';
import { pageActor, valueOr404 } from '@/server/page';
import { readVisit } from '@/server/visits';

export const metadata: Metadata = { title: 'Visit' };

export default async function VisitPage({ params }: { readonly params: Promise<{ id: string }> }) {
  return <VisitView {...valueOr404(await readVisit(await pageActor(), (await params).id))} />;
}
