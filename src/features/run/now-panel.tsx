'use client';

import dynamic from 'next/dynamic';
import { instrumentOf, type Phase } from '@/core/course';
import { type EventOf, guardText, isSaidAtOnce, isSpoilt, type ReadingRole, sentenceOf } from '@/core/judging';
import { decimal, unitLabel } from '@/core/quantities';
import { bandAdvice, closingWords, holdNow, mayStartNow } from '@/core/running';
import { useDevice } from '@/device/provider';
import { clockTime } from '@/device/use-now';
import type { OpenRun } from '@/device/use-run';
import { SignalLine } from '@/features/frame/signal-line';
import { Button } from '@/ui/button';
import { button, quietButton, stopButton } from '@/ui/classes';
import { Notice } from '@/ui/notice';
import { Extras } from './extras';
import type { PlanFrom } from './go-on';
import { mayNotCome, type Now, plausible } from './run-model';
import type { Hands } from './use-hands';

// Each part comes as it is first needed; all are fetched once the screen stands, so that no press ever waits for one.
const parts = {
  check: () => import('./check-panel').then((module) => module.CheckPanel),
  conditions: () => import('./conditions').then((module) => module.Conditions),
  keypad: () => import('./keypad').then((module) => module.Keypad),
  taken: () => import('./taken-readings').then((module) => module.TakenReadings),
};
/** Fetches what the run screen may need next. */
export const fetchParts = (): void => {
  for (const fetchPart of Object.values(parts)) fetchPart();
};
const CheckPanel = dynamic(parts.check, { ssr: false });
const Conditions = dynamic(parts.conditions, { ssr: false });
const Keypad = dynamic(parts.keypad, { ssr: false });
const TakenReadings = dynamic(parts.taken, { ssr: false });
const FallSeen = dynamic(() => import('./under-pressure').then((module) => module.FallSeen), { ssr: false });
const UnderPressure = dynamic(() => import('./under-pressure').then((module) => module.UnderPressure), { ssr: false });
const Meanwhile = dynamic(() => import('./meanwhile').then((module) => module.Meanwhile), { ssr: false });
const MeasurePanel = dynamic(() => import('./measure-panel').then((module) => module.MeasurePanel), { ssr: false });
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
  point: 'Reading',
};

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
  goLocate,
  goPlan,
  ...props
}: NowProps & {
  readonly dialog?: string;
  readonly setDialog: (dialog: string | undefined) => void;
  readonly goVerdict: () => void;
  readonly goLocate: () => void;
  readonly goPlan: (from: PlanFrom) => void;
}) {
  const { open, present, hands } = props;
  const { hasPen, judgement, run } = open;
  const { facts } = useDevice();
  const { cautions } = hands;
  return (
    <section
      className="flex min-h-0 flex-col gap-3 px-4 pb-3 @5xl:border-l @5xl:border-line @5xl:pt-2"
      aria-label="Now"
      data-phase={present.phase?.id ?? 'over'}
      data-kind={present.settlingUntil === undefined ? (present.phase?.kind ?? 'over') : 'settling'}
      data-round={present.state?.round ?? 1}
    >
      <div className="flex flex-1 flex-col gap-3 @5xl:min-h-0 @5xl:overflow-y-auto @5xl:pr-1">
        {!open.mayWrite && <Notice>You look on: your role runs no tests. What is done on site shows here as it comes.</Notice>}
        {open.mayWrite && !hasPen && (
          <Notice tone="caution">
            Another device holds the pen: it moves the phases. You can watch, note and photograph here.{' '}
            <Button tone="bare" size="tall" className="font-semibold" onClick={() => open.write({ type: 'pen' })}>
              Take the pen
            </Button>
          </Notice>
        )}
        {open.mayWrite &&
          cautions.map((caution) => (
            <Notice key={caution} tone="caution">
              {run.plan.cautions[caution]}
              {caution === 'smell' && <b className="figures block text-lg">{facts.firm.emergencyNumber}</b>}
            </Notice>
          ))}
        {!open.mayWrite ? null : cautions.length > 0 ? (
          <Button size="great" onClick={hands.understood} disabled={!hasPen}>
            Understood <kbd className="text-xs opacity-80 @max-5xl:hidden">C</kbd>
          </Button>
        ) : (
          <>
            <OverPressure {...props} setDialog={setDialog} />
            <Trouble {...props} end={() => setDialog('end')} />
            {present.holding && <FallSeen open={open} present={present} setDialog={setDialog} />}
            <UnderPressure open={open} present={present} goLocate={goLocate} goPlan={goPlan} />
            <Task {...props} setDialog={setDialog} />
            <Meanwhile open={open} present={present} setDialog={setDialog} />
          </>
        )}
        {present.phase === undefined && (
          <>
            <p className="text-xl font-semibold">The course is done.</p>
            <Button size="great" onClick={goVerdict}>
              Verdict
            </Button>
          </>
        )}
      </div>
      {open.mayWrite && (
        <Extras
          key={run.id}
          open={open}
          phase={present.phase?.id ?? run.plan.phases.at(-1)?.id ?? ''}
          round={present.state?.round ?? 1}
          dialog={dialog}
          setDialog={setDialog}
          holding={present.holding}
          emergencyNumber={facts.firm.emergencyNumber}
          cautions={run.plan.cautions}
        />
      )}
      <footer className="mt-1 flex items-center justify-between gap-3">
        <SignalLine />
        <Button tone="bare" size="tall" className="text-sm" onClick={() => setDialog('sound')}>
          Sound
        </Button>
        <Button tone="bare" size="tall" className="text-sm @max-5xl:hidden" onClick={() => setDialog('keys')}>
          Keys <kbd className="text-xs text-quiet">?</kbd>
        </Button>
        {present.phase !== undefined && judgement.provisional !== 'in progress' && (
          <Button tone="bare" size="tall" className="font-semibold" onClick={goVerdict}>
            Verdict so far
          </Button>
        )}
      </footer>
    </section>
  );
}

/** A part that stood over its rating: said in red until somebody has looked at it, whatever is open meanwhile (DOMAIN 4.29). */
function OverPressure({ open, setDialog }: NowProps & { readonly setDialog: (dialog: string) => void }) {
  const over = open.judgement.reasons.filter(({ code }) => code === 'over-rating');
  if (over.length === 0) return null;
  return (
    <div className="flex flex-col gap-2">
      {over.map((one) => (
        <Notice key={sentenceOf(one)} tone="stop" role="alert">
          Let it down. {sentenceOf(one)}
        </Notice>
      ))}
      <Button tone="quiet" size="tall" onClick={() => setDialog('inspected')}>
        The part was looked at…
      </Button>
    </div>
  );
}

/** What is wrong, inline and with the action: a figure that does not count, a spoilt hold, a gauge that is not at zero. */
function Trouble({ open, present: { phase, state }, end }: NowProps & { readonly end: () => void }) {
  const { run, judgement, hasPen } = open;
  if (phase === undefined) return null;
  const unit = unitLabel(instrumentOf(run.plan, phase.kind === 'zero' ? phase.instrument : undefined).unit);
  // Why a round does not count is always said, whatever it was.
  const notes = judgement.reasons.filter(
    (reason) =>
      reason.phase === phase.id && (isSaidAtOnce(reason) || (isSpoilt(state) && reason.weight !== 'note' && reason.weight !== 'pass')),
  );
  // Said in red above already, with what to do.
  const isSaidInRed = ({ code, data }: (typeof notes)[number]) =>
    code === 'over-ceiling' && judgement.reasons.some((one) => one.code === 'over-rating' && one.data.value === data.value);
  // Of two holds at the same time each is done again by itself.
  const restarts = judgement.next.filter((step) => step.code === 'restart');
  const restart = restarts.find((step) => step.phase === phase.id) ?? restarts.at(0);
  const shown = state?.state === 'current' && state.is === 'zeroing' ? state.shown : undefined;
  return (
    <>
      {notes
        .filter((note) => !isSaidInRed(note))
        .map((note) => (
          <Notice key={sentenceOf(note)} tone="caution" role="alert">
            {note.code === 'start-out-of-band' && phase.kind === 'hold'
              ? (bandAdvice(run.plan, holdNow(run.plan, judgement, phase), note.data.value, false) ?? sentenceOf(note))
              : sentenceOf(note)}
          </Notice>
        ))}
      {isSpoilt(state) && (
        <div className="flex flex-col gap-2">
          {restart?.code === 'restart' && (
            <Button size="great" disabled={!hasPen} onClick={() => open.restart(restart.phase)}>
              {restart.label}
            </Button>
          )}
          <Button tone="stop" size="tall" onClick={end}>
            End the test here
          </Button>
        </div>
      )}
      {shown !== undefined && (
        <Notice tone="stop" role="alert">
          It shows {shown} {unit} while disconnected. Zero it and read again, or end the test and take another gauge. Nothing read with it
          counts.
        </Notice>
      )}
    </>
  );
}

/** A list in which the pressure is raised or let down. */
const isRaised = (phase: Phase): boolean => phase.kind === 'check' && phase.items.some(({ to }) => to !== undefined);

/** The phase's own work: its list, what to look at, or the reading. */
function Task(props: NowProps & { readonly setDialog: (dialog: string) => void }) {
  const { open, present, hands } = props;
  const { phase, state, ask } = present;
  const { run, events, hasPen, write, judgement } = open;
  if (phase === undefined) return null;
  const round = state?.round ?? 1;
  const withGauge =
    ask !== undefined || present.holding || present.settlingUntil !== undefined || isRaised(phase) || phase.id === run.plan.phases[0].id;
  return (
    <>
      {hands.simulated && withGauge && (
        <SimulatedPanel plan={run.plan} events={events} run={run.id} ask={ask} mayMove={hasPen} hands={hands} />
      )}
      {phase.kind === 'check' && state !== undefined && (
        <CheckPanel
          run={run.id}
          key={phase.id}
          phase={phase}
          state={state}
          mayMove={hasPen}
          gauge={run.plan.gauge}
          answer={hands.answer}
          readGuard={async (item, value, celsius) => {
            const { unit } = run.plan.gauge;
            await write({ type: 'guard', value, unit, source: 'keypad', celsius });
            await hands.answer(item, 'done', guardText(value, unit, celsius));
          }}
        />
      )}
      {phase.kind === 'measure' && (
        <MeasurePanel phase={phase} round={round} events={events} withdrawn={judgement.withdrawn} {...(ask === undefined ? {} : { ask })} />
      )}
      {phase.kind === 'observe' && (
        <div className="flex flex-col gap-2">
          {phase.options.map(({ id, label, hoped }) => (
            <button
              key={id}
              type="button"
              className={`${hoped ? button : stopButton} min-h-14 text-lg`}
              disabled={!hasPen}
              onClick={() => write({ type: 'observation', phase: phase.id, round, option: id })}
            >
              {label}
            </button>
          ))}
        </div>
      )}
      <Conditions open={open} phase={phase} present={present} setDialog={props.setDialog} />
      <Reading {...props} />
      {(phase.kind === 'hold' || phase.kind === 'zero' || phase.kind === 'measure') && (
        <TakenReadings open={open} phase={phase.id} round={round} closed={isSpoilt(state)} />
      )}
    </>
  );
}

/** Stamp, then type: the large button records the moment, the keypad takes the figure at leisure. */
function Reading({
  open,
  present: { phase, state, ask },
  hands,
  stamp,
  setDialog,
}: NowProps & { readonly setDialog: (dialog: string) => void }) {
  const { plan } = open.run;
  if (stamp !== undefined && ask !== undefined) {
    // The role that was pressed counts, whatever has fallen due since; of several figures at a point the next one is asked.
    const typed = { ...ask, role: stamp.role };
    const what = ask.label === undefined ? readingWords[stamp.role] : `${ask.label}, ${ask.point?.label ?? ''}`;
    const nothing = ask.quantity === 'flow' && Number(ask.instrument.rangeLow) > 0;
    return (
      <Keypad
        key={`${stamp.id} ${ask.quantity}`}
        instrument={ask.instrument}
        plausible={plausible(plan, ask)}
        keep={`${stamp.id} ${ask.quantity}`}
        label={`${what}, stamped ${clockTime(stamp.observedAt)}`}
        onSave={(value, text) => hands.save(typed, value, text, stamp)}
        onCancel={() => open.write({ type: 'withdrawn', reading: stamp.id, reason: 'Stamp discarded before a figure was typed' })}
        {...(nothing ? { onNothing: () => hands.save(typed, ask.instrument.rangeLow, 'below range', stamp, true) } : {})}
        confirm={(value) =>
          phase === undefined ? undefined : closingWords(plan, open.events, open.judgement, phase, state, typed, stamp, value)
        }
        advise={(value) =>
          stamp.role === 'start' && phase?.kind === 'hold'
            ? bandAdvice(plan, holdNow(plan, open.judgement, phase), value, mayStartNow(plan, open.judgement, phase, decimal(value)))
            : undefined
        }
      />
    );
  }
  if (ask === undefined) return null;
  const words = ask.label === undefined ? stampWords[ask.role] : `Read ${ask.label.toLowerCase()}`;
  return (
    <div className="mt-auto flex flex-col gap-2 @5xl:mt-0">
      {hands.simulated && (
        <Button tone="quiet" size="tall" disabled={!open.hasPen || hands.acting} onClick={hands.takeSimulated}>
          Read the simulated gauge <kbd className="text-xs text-quiet @max-5xl:hidden">R</kbd>
        </Button>
      )}
      <button
        type="button"
        className={`${ask.role === 'between' ? quietButton : button} min-h-16 text-xl`}
        disabled={!open.hasPen}
        onClick={hands.press}
      >
        {words} <kbd className="text-xs opacity-80 @max-5xl:hidden">S</kbd>
      </button>
      <div className="flex flex-wrap gap-x-5">
        {mayNotCome(ask, phase) && (
          <Button tone="bare" size="tall" className="px-1 text-sm" onClick={() => setDialog('not-reached')}>
            It does not come up…
          </Button>
        )}
        {ask.role === 'start' && ask.quantity === 'pressure' && !hands.simulated && (
          <Button tone="bare" size="tall" className="px-1 text-sm" onClick={() => setDialog('log')}>
            Log file…
          </Button>
        )}
      </div>
    </div>
  );
}
