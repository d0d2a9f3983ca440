import type { Metadata } from 'next';
import { PrintButton } from '@/features/procedures/print-button';
import { KitScreen } from '@/features/procedures/procedure-screen';
import { readProcedure } from '@/server/library';
import { pageActor, valueOr404 } from '@/server/page';

export const metadata: Metadata = { title: 'Kit list' };

export default async function KitPage({ params }: { readonly params: Promise<{ id: string }> }) {
  const { view } = valueOr404(await readProcedure(await pageActor(), (await params).id));
  return <KitScreen view={view} print={<PrintButton />} />;
}
