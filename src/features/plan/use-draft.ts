import { useCallback, useEffect, useState } from 'react';
import type { Plan, Stricter } from '@/core/planning';
import type { Answers, Procedure } from '@/core/procedures';
import type { EarlierPlan, Ground, GroundSystem } from '@/device/ground';

/** What a plan is made from, as it stands on the screen. */
export interface Draft {
  readonly answers: Answers;
  readonly pipes: string;
  readonly statedVolume: string;
  /** Empty where nobody has chosen yet: then the first that suits stands. */
  readonly gaugeId: string;
  /** Instruments beside the gauge, by role. */
  readonly instrumentIds: Readonly<Record<string, string>>;
  /** Thermometer and barometer; empty where none is named. */
  readonly thermometerId: string;
  readonly barometerId: string;
  /** Figures that this job takes stricter. */
  readonly stricter: readonly Stricter[];
  /** The firm's own procedure that is followed; empty for the procedure itself. */
  readonly variantId: string;
  readonly jobOrigin: string;
  readonly meterNumber: string;
  readonly meterReading: string;
  readonly visualInspection: boolean;
}

/** The parts of a draft that another plan can give. */
export type Start = Pick<
  Draft,
  'answers' | 'pipes' | 'statedVolume' | 'gaugeId' | 'instrumentIds' | 'variantId' | 'thermometerId' | 'barometerId' | 'stricter'
>;

export const startOf = ({
  answers,
  pipes,
  statedVolume,
  gauge,
  instruments,
  variant = '',
  thermometer = '',
  barometer = '',
}: EarlierPlan): Start => ({
  answers,
  pipes,
  statedVolume,
  gaugeId: gauge,
  instrumentIds: instruments,
  variantId: variant,
  thermometerId: thermometer,
  barometerId: barometer,
  // What one job asked for is not asked of the next.
  stricter: [],
});

export const startOfPlan = (plan: Plan): Start => ({
  answers: plan.answers,
  pipes: plan.pipes.join('\n'),
  statedVolume: plan.volume.typed,
  gaugeId: plan.gauge.id,
  instrumentIds: Object.fromEntries(Object.entries(plan.instruments ?? {}).map(([role, { id }]) => [role, id])),
  variantId: plan.procedure.variant?.id ?? '',
  thermometerId: plan.weather?.thermometer?.id ?? '',
  barometerId: plan.weather?.barometer?.id ?? '',
  stricter: plan.figures
    .filter(({ source }) => source === 'this job')
    .map(({ id, value, reference = '' }) => ({ figure: id, value, reference })),
});

/** The last test of this system by this procedure, else what is known of the system itself. */
export function usualStart(ground: Ground, system: GroundSystem, procedure: Procedure): Start {
  const last = ground.earlier.find(({ systemId, procedure: id }) => systemId === system.id && id === procedure.id);
  const known = new Set(procedure.parameters.map(({ id }) => id));
  return last === undefined
    ? {
        answers: Object.fromEntries(Object.entries(system.answers).filter(([id]) => known.has(id))),
        pipes: system.pipes,
        statedVolume: system.statedVolume,
        gaugeId: '',
        instrumentIds: {},
        variantId: '',
        thermometerId: '',
        barometerId: '',
        stricter: [],
      }
    : withoutSimulated(ground, startOf(last));
}

/** Practice on a simulated gauge is no reason to take it to the next job. */
function withoutSimulated({ instruments }: Ground, start: Start): Start {
  const real = (id: string) => instruments.some((one) => one.id === id && !one.simulated);
  return {
    ...start,
    gaugeId: real(start.gaugeId) ? start.gaugeId : '',
    instrumentIds: Object.fromEntries(Object.entries(start.instrumentIds).filter(([, id]) => real(id))),
    thermometerId: real(start.thermometerId) ? start.thermometerId : '',
    barometerId: real(start.barometerId) ? start.barometerId : '',
  };
}

function readDraft(key: string): Partial<Draft> {
  try {
    return JSON.parse(sessionStorage.getItem(key) ?? '{}');
  } catch {
    return {};
  }
}

/** A draft survives reload: nothing typed is lost. */
export function useDraft(key: string, procedure: Procedure, start: () => Start, variantId: string | undefined) {
  const [draft, setDraft] = useState<Draft>(() => ({
    jobOrigin: '',
    meterNumber: '',
    meterReading: '',
    visualInspection: true,
    ...withDefaults(procedure, start()),
    ...readDraft(key),
    // Chosen just now, on the way here.
    ...(variantId === undefined ? {} : { variantId }),
  }));
  useEffect(() => sessionStorage.setItem(key, JSON.stringify(draft)), [draft, key]);
  const change = useCallback((part: Partial<Draft>) => setDraft((last) => ({ ...last, ...part })), []);
  const answer = useCallback(
    (id: string, value: string) => setDraft((last) => ({ ...last, answers: { ...last.answers, [id]: value } })),
    [],
  );
  const copy = useCallback((from: Start) => change(withDefaults(procedure, from)), [change, procedure]);
  return { draft, change, answer, copy, forget: () => sessionStorage.removeItem(key) };
}

export const withDefaults = ({ parameters }: Procedure, start: Start): Start => ({
  ...start,
  answers: { ...Object.fromEntries(parameters.map((parameter) => [parameter.id, parameter.default])), ...start.answers },
});
