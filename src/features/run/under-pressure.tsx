'use client';

import { isSearched } from '@/core/locating';
import { fallSoFar, fallWords } from '@/core/running';
import type { OpenRun } from '@/device/use-run';
import { Button } from '@/ui/button';
import { Notice } from '@/ui/notice';
import type { PlanFrom } from './go-on';
import type { Now } from './run-model';

/** The first reading over the limit, in one sentence, with what can be done while the pressure stands (DOMAIN 4.27). */
export function FallSeen({
  open,
  present: { phase },
  setDialog,
}: {
  readonly open: OpenRun;
  readonly present: Now;
  readonly setDialog: (dialog: string) => void;
}) {
  const { run, events, judgement, hasPen, write } = open;
  const fall = phase === undefined ? undefined : fallSoFar(run.plan, judgement, events, phase);
  if (phase === undefined || fall === undefined) return null;
  return (
    <section aria-label="Fall" className="space-y-2">
      <Notice tone="stop" role="alert">
        {fallWords(fall, phase)} Soap the rig first. Stopped here, the gauge is swapped, parts are isolated and the leak is looked for under
        this pressure.
      </Notice>
      <div className="grid grid-cols-2 gap-2">
        <Button
          tone="stop"
          size="tall"
          disabled={!hasPen}
          onClick={() => write({ type: 'hold-stopped', phase: fall.phase, round: fall.round, reason: fallWords(fall, phase) })}
        >
          Stop: judge it by this
        </Button>
        <Button tone="quiet" size="tall" onClick={() => setDialog('leak')}>
          Leak seen, or rig…
        </Button>
      </div>
    </section>
  );
}

/**
 * A hold that proved no tightness, and its closing steps not begun: what needs the pressure comes first. The next attempt takes the
 * closing steps over.
 */
export function UnderPressure({
  open,
  present: { phase, state },
  goLocate,
  goPlan,
}: {
  readonly open: OpenRun;
  readonly present: Now;
  readonly goLocate: () => void;
  readonly goPlan: (from: PlanFrom) => void;
}) {
  const { run, judgement, hasPen, test } = open;
  const begun = state !== undefined && 'items' in state && state.items.length > 0;
  const smelt = judgement.reasons.some(({ code }) => code === 'smell');
  const isOpen =
    phase?.kind === 'check' && phase.closing && ['fail', 'inconclusive', 'restricted', 'invalid'].includes(judgement.provisional);
  if (!isOpen || begun || smelt || run.plan.gauge.id === 'none') return null;
  const may = hasPen && test.sealed === undefined;
  return (
    <section aria-label="Under pressure" className="space-y-2 border-l-4 border-action pl-3">
      <p className="font-semibold">The pressure is still in. What needs it comes before the steps below.</p>
      <div className="grid grid-cols-2 gap-2">
        {isSearched(judgement) && (
          <Button size="tall" onClick={goLocate}>
            Find the leak
          </Button>
        )}
        {judgement.next.map((step) =>
          step.code === 'repeat-with' ? (
            <Button key={step.label} tone="quiet" size="tall" disabled={!may} onClick={() => goPlan({ answers: step.answers })}>
              {step.label}
            </Button>
          ) : step.code === 'swap-gauge' ? (
            <Button key={step.label} tone="quiet" size="tall" disabled={!may} onClick={() => goPlan({ avoid: run.plan.gauge.id })}>
              {step.label}
            </Button>
          ) : step.code === 'new-attempt' ? (
            <Button key={step.label} tone="quiet" size="tall" disabled={!may} onClick={() => goPlan({})}>
              {step.label}
            </Button>
          ) : null,
        )}
      </div>
    </section>
  );
}
