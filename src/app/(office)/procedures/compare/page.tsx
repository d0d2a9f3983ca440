import type { Metadata } from 'next';
import { procedures } from '@/core/procedures';
import { CompareScreen } from '@/features/procedures/compare-screen';
import { readProcedure } from '@/server/library';
import { pageActor, valueOr404 } from '@/server/page';

export const metadata: Metadata = { title: 'Side by side' };

export default async function ComparePage({
  searchParams,
}: {
  readonly searchParams: Promise<Record<string, string | string[] | undefined>>;
}) {
  const actor = await pageActor();
  const { first, second } = await searchParams;
  const [one, other] = await Promise.all(
    [first ?? procedures[0].id, second ?? procedures[1].id].map((id) => readProcedure(actor, String(id))),
  );
  return (
    <CompareScreen first={valueOr404(one).view} second={valueOr404(other).view} all={procedures.map(({ id, title }) => ({ id, title }))} />
  );
}
