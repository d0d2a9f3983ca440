import { type Gauge, gaugeFindings } from '@/core/planning/gauge';
import type { PlanResult } from '@/core/planning/plan';
import type { Procedure } from '@/core/procedures';
import { Simulated } from '@/ui/notice';

/** Real gauges in calibration first, the finest before the coarser, the simulated one last. */
export function rankOf(gauge: Gauge, on: string): number {
  const overdue = gauge.calibration.needed && gauge.calibration.due < on;
  return (gauge.simulated ? 100 : 0) + (overdue ? 50 : 0) + (gauge.kind === 'digital' ? 0 : 10) + Number(gauge.readability);
}

/** One of the van's gauges, with why it does not suit the plan as it stands. */
export function GaugeChoice({
  gauge,
  chosen,
  choose,
  result,
  procedure,
  on,
}: {
  readonly gauge: Gauge;
  readonly chosen: boolean;
  readonly choose: () => void;
  readonly result: PlanResult;
  readonly procedure: Procedure;
  /** Local date of the test. */
  readonly on: string;
}) {
  const demand = result.ok
    ? { highest: result.value.plan.highest, limit: result.value.plan.limit, unit: result.value.plan.unit, on }
    : undefined;
  const findings = demand === undefined ? [] : gaugeFindings(gauge, demand);
  const advice = procedure.gaugeAdvice?.(gauge);
  return (
    <label
      className={`flex cursor-pointer gap-3 border px-3 py-2 ${chosen ? 'border-2 border-action bg-surface' : 'border-line'} rounded-[3px_10px_3px_3px]`}
    >
      <input type="radio" name="gauge" className="mt-1 size-5 shrink-0 accent-(--action)" checked={chosen} onChange={choose} />
      <span className="min-w-0">
        <span className="flex flex-wrap items-center gap-2 font-medium">
          {gauge.name} {gauge.simulated && <Simulated />}
        </span>
        <span className="figures text-sm text-quiet">
          steps of {gauge.readability} {gauge.unit} · {gauge.calibration.needed ? `due ${gauge.calibration.due}` : 'needs no calibration'}
        </span>
        {findings.map(({ code, message }) => (
          <span key={code} className="block text-sm font-medium text-stop">
            Does not fit: {message}
          </span>
        ))}
        {findings.length === 0 && advice !== undefined && <span className="block text-sm text-caution">{advice}</span>}
      </span>
    </label>
  );
}
