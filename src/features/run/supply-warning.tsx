import type { Judgement } from '@/core/judging';
import { supplyClash } from '@/core/planning';
import { procedureById } from '@/core/procedures';
import type { LocalRun, LocalTest } from '@/device/store';
import { Notice } from '@/ui/notice';

/** A test under way on this device. */
interface UnderWay {
  readonly run: LocalRun;
  readonly test: LocalTest;
  readonly judgement: Judgement;
}

/** Pairs of tests on one site that need a supply in two states now, each in a sentence. */
function clashes(runs: readonly UnderWay[]): readonly string[] {
  const known = runs.flatMap(({ run: { plan }, test, judgement }) => {
    const procedure = procedureById(plan.procedure.id);
    return procedure === undefined ? [] : [{ name: test.system, site: test.site, procedure, phase: judgement.current ?? '' }];
  });
  return known.flatMap((first, index) =>
    known.slice(index + 1).flatMap((second) => (first.site === second.site ? (supplyClash(first, second) ?? []) : [])),
  );
}

/** A supply shut for one test that another is about to open. */
export function SupplyWarning({ runs }: { readonly runs: readonly UnderWay[] }) {
  return clashes(runs).map((sentence) => (
    <Notice key={sentence} tone="stop" role="alert">
      {sentence}
    </Notice>
  ));
}
