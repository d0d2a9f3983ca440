import type { OpenRun } from '@/device/use-run';

/** What another attempt starts from. */
export interface PlanFrom {
  readonly avoid?: string;
  readonly answers?: Readonly<Record<string, string>>;
}

/** The next attempt follows under this pressure: it takes over what closes the test, unless that is done already. */
export async function goOn({ judgement, hasPen, write }: OpenRun): Promise<void> {
  const decided = judgement.provisional !== 'in progress' && judgement.verdict === 'in progress';
  if (decided && hasPen) await write({ type: 'continued' });
}
