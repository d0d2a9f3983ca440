import type { Metadata } from 'next';
import { may } from '@/core/permissions';
import { procedureById } from '@/core/procedures';
import { ProcedureScreen } from '@/features/procedures/procedure-screen';
import { readProcedure } from '@/server/library';
import { pageActor, valueOr404 } from '@/server/page';

interface Props {
  readonly params: Promise<{ id: string }>;
}

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  return { title: procedureById((await params).id)?.title ?? 'Procedure' };
}

export default async function ProcedurePage({ params }: Props) {
  const actor = await pageActor();
  const page = valueOr404(await readProcedure(actor, (await params).id));
  return <ProcedureScreen {...page} maySetRules={may(actor.role, 'set rules')} />;
}
