'use client';

import dynamic from 'next/dynamic';
import type { EventOf, ReadingRole } from '@/core/judging/events';
import { inBand } from '@/core/judging/exact';
import type { ReasonCode } from '@/core/judging/reasons';
import { decimal, unitLabel } from '@/core/quantities';
import { SignalLine, useField } from '@/features/field/field';
import type { OpenRun } from '@/features/field/use-run';
import { button, quietButton, stopButton } from '@/ui/classes';
import { Notice } from '@/ui/notice';
import { CheckPanel } from './check-panel';
import { Extras } from './extras';
import { Keypad } from './keypad';
import { bandAdvice, type Now, plausible } from './run-model';
import { TakenReadings } from './taken-readings';
import type { Hands } from './use-hands';
import { clockTime } from './use-now';

const SimulatedPanel = dynamic(() => import('./simulated-panel').then((module) => module.SimulatedPanel), { ssr: false });

const stampWords: Record<ReadingRole, string> = {
  zero: 'Read zero',
  start: 'Stamp the start',
  between: 'Note a reading',
  end: 'Stamp the end',
  point: 'Note the figure',
};

const readingWords: Record<ReadingRole, string> = {
  zero: 'Zero reading',
  start: 'Start reading',
  between: 'Reading',
  end: 'End reading',
  point: 'Reading at the point',
};

/** Reasons that ask something of whoever stands at the gauge; the rest belong to the verdict. */
const saidAtOnce: readonly ReasonCode[] = [
  'start-out-of-band',
  'start-too-soon',
  'second-start',
  'early-end',
  'reading-refused',
  'second-end',
  'disturbed',
  'clock-jump',
  'rig-leak-seen',
  'hold-rise',
  'late-fall',
  'not-zeroed',
];

export interface NowProps {
  readonly open: OpenRun;
  readonly present: Now;
  readonly hands: Hands;
  readonly stamp?: EventOf<'stamp'>;
}

/** Beside the course: cautions first, then what is to be done now, then what is one tap away in every phase. */
export function NowPanel({
  dialog,
  setDialog,
  goVerdict,
  ...props
}: NowProps & {
  readonly dialog?: string;
  readonly setDialog: (dialog: string | undefined) => void;
  readonly goVerdict: () => void;
}) {
  const { open, present, hands } = props;
  const { hasPen, judgement, run } = open;
  const { kit } = useField();
  const { cautions } = hands;
  return (
    <section className="flex min-h-0 flex-col gap-3 px-4 pb-3 lg:border-l lg:border-line lg:pt-2" aria-label="Now">
      <div className="flex flex-1 flex-col gap-3 lg:min-h-0 lg:overflow-y-auto lg:pr-1">
        {!hasPen && (
          <Notice tone="caution">
            Another device holds the pen: it moves the phases. You can watch, note and photograph here.{' '}
            <button type="button" className="min-h-12 font-semibold underline" onClick={() => open.write({ type: 'pen' })}>
              Take the pen
            </button>
          </Notice>
        )}
        {cautions.map((caution) => (
          <Notice key={caution} tone="caution">
            {run.plan.cautions[caution]}
            {caution === 'smell' && <b className="figures block text-lg">{kit.firm.emergencyNumber}</b>}
          </Notice>
        ))}
        {cautions.length > 0 ? (
          <button type="button" className={`${button} min-h-14 text-lg`} onClick={hands.understood} disabled={!hasPen}>
            Understood <kbd className="text-xs opacity-80 max-lg:hidden">C</kbd>
          </button>
        ) : (
          <>
            <Trouble {...props} end={() => setDialog('end')} />
            <Task {...props} />
          </>
        )}
        {present.phase === undefined && (
          <>
            <p className="text-xl font-semibold">The course is done.</p>
            <button type="button" className={`${button} min-h-14 text-lg`} onClick={goVerdict}>
              Verdict
            </button>
          </>
        )}
      </div>
      <Extras
        key={run.id}
        open={open}
        phase={present.phase?.id ?? run.plan.phases.at(-1)?.id ?? ''}
        round={present.state?.round ?? 1}
        dialog={dialog}
        setDialog={setDialog}
        holding={present.holding}
        emergencyNumber={kit.firm.emergencyNumber}
        cautions={run.plan.cautions}
      />
      <footer className="mt-1 flex items-center justify-between gap-3">
        <SignalLine />
        <button type="button" className="min-h-12 text-sm underline max-lg:hidden" onClick={() => setDialog('keys')}>
          Keys <kbd className="text-xs text-quiet">?</kbd>
        </button>
        {present.phase !== undefined && judgement.provisional !== 'in progress' && (
          <button type="button" className="min-h-12 font-semibold underline" onClick={goVerdict}>
            Verdict so far
          </button>
        )}
      </footer>
    </section>
  );
}

/** What is wrong, inline and with the action: a figure that does not count, a spoilt hold, a gauge that is not at zero. */
function Trouble({ open, present: { phase, state }, end }: NowProps & { readonly end: () => void }) {
  const { run, judgement, hasPen } = open;
  if (phase === undefined) return null;
  const unit = unitLabel(run.plan.gauge.unit);
  const notes = judgement.reasons.filter((reason) => reason.phase === phase.id && saidAtOnce.includes(reason.code));
  const restart = judgement.next.find((step) => step.code === 'restart');
  return (
    <>
      {notes.map((note) => (
        <Notice key={note.sentence} tone="caution" role="alert">
          {note.code === 'start-out-of-band' && phase.kind === 'hold'
            ? (bandAdvice(run.plan, phase, note.data.value, false) ?? note.sentence)
            : note.sentence}
        </Notice>
      ))}
      {state?.spoilt === true && phase.kind === 'hold' && (
        <div className="flex flex-col gap-2">
          {restart?.code === 'restart' && (
            <button type="button" className={`${button} min-h-14 text-lg`} disabled={!hasPen} onClick={() => open.restart(restart.phase)}>
              {restart.label}
            </button>
          )}
          <button type="button" className={`${stopButton} min-h-12`} onClick={end}>
            End the test here
          </button>
        </div>
      )}
      {phase.kind === 'zero' && state?.spoilt === true && (
        <Notice tone="stop" role="alert">
          It shows {state.end} {unit} while disconnected. Zero it and read again, or end the test and take another gauge. Nothing read with
          it counts.
        </Notice>
      )}
    </>
  );
}

/** The phase's own work: its list, what to look at, or the reading. */
function Task(props: NowProps) {
  const { open, present, hands } = props;
  const { phase, state } = present;
  const { run, events, hasPen, write } = open;
  if (phase === undefined) return null;
  const withGauge = phase.kind === 'zero' || phase.kind === 'hold' || phase.id === run.plan.phases[0].id;
  return (
    <>
      {run.plan.gauge.simulated && withGauge && (
        <SimulatedPanel
          plan={run.plan}
          events={events}
          run={run.id}
          phase={phase}
          begun={present.holding || present.settlingUntil !== undefined}
          mayMove={hasPen}
          act={hands.actPlant}
        />
      )}
      {phase.kind === 'check' && state !== undefined && (
        <CheckPanel key={phase.id} phase={phase} state={state} mayMove={hasPen} answer={hands.answer} />
      )}
      {phase.kind === 'observe' && (
        <div className="flex flex-col gap-2">
          {phase.options.map(({ id, label, hoped }) => (
            <button
              key={id}
              type="button"
              className={`${hoped ? button : stopButton} min-h-14 text-lg`}
              disabled={!hasPen}
              onClick={() => write({ type: 'observation', phase: phase.id, round: state?.round ?? 1, option: id })}
            >
              {label}
            </button>
          ))}
        </div>
      )}
      <Reading {...props} />
      {(phase.kind === 'hold' || phase.kind === 'zero') && <TakenReadings open={open} phase={phase.id} round={state?.round ?? 1} />}
    </>
  );
}

/** Stamp, then type: the large button records the moment, the keypad takes the figure at leisure. */
function Reading({ open, present: { phase, role }, hands, stamp }: NowProps) {
  const { plan } = open.run;
  if (stamp !== undefined)
    return (
      <Keypad
        key={stamp.id}
        gauge={plan.gauge}
        plausible={plausible(plan)}
        keep={stamp.id}
        label={`${readingWords[stamp.role]}, stamped ${clockTime(stamp.observedAt)}`}
        onSave={(value, typed) => hands.save(value, typed, stamp)}
        onCancel={() => open.write({ type: 'withdrawn', reading: stamp.id, reason: 'Stamp discarded before a figure was typed' })}
        advise={(value) =>
          stamp.role === 'start' && phase?.kind === 'hold'
            ? bandAdvice(plan, phase, value, inBand(decimal(value), plan.gauge.unit, phase.band.low, phase.band.high, plan.unit))
            : undefined
        }
      />
    );
  if (role === undefined) return null;
  return (
    <div className="mt-auto flex flex-col gap-2 lg:mt-0">
      {plan.gauge.simulated && (
        <button type="button" className={`${quietButton} min-h-12`} disabled={!open.hasPen} onClick={hands.takeSimulated}>
          Read the simulated gauge <kbd className="text-xs text-quiet max-lg:hidden">R</kbd>
        </button>
      )}
      <button
        type="button"
        className={`${role === 'between' ? quietButton : button} min-h-16 text-xl`}
        disabled={!open.hasPen}
        onClick={hands.press}
      >
        {stampWords[role]} <kbd className="text-xs opacity-80 max-lg:hidden">S</kbd>
      </button>
    </div>
  );
}
