import type { Metadata } from 'next';
import { LibraryScreen } from '@/features/procedures/library-screen';
import { readLibrary } from '@/server/library';
import { pageActor } from '@/server/page';

export const metadata: Metadata = { title: 'Procedures' };

export default async function ProceduresPage() {
  return <LibraryScreen entries={await readLibrary(await pageActor())} />;
}
