'use client';

import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { CheckState, ReadingRole, ReadingSource } from '@/core/judging/events';
import { inBand } from '@/core/judging/exact';
import { estimateOf, sampled, tracesOf } from '@/core/judging/trace';
import type { CheckItem } from '@/core/procedures/phases';
import { compare, decimal, unitLabel } from '@/core/quantities';
import { simulatedGauge } from '@/core/simulation/simulated-gauge';
import { now } from '@/features/field/clock';
import { SignalLine, useField } from '@/features/field/field';
import { type Moment, thisDevice, thisMoment } from '@/features/field/log';
import type { OpenRun } from '@/features/field/use-run';
import { button, quietButton, stopButton } from '@/ui/classes';
import { Notice, Simulated } from '@/ui/notice';
import { keepAwake, soundAlarm, unlockSound } from './alarm';
import { CheckPanel } from './check-panel';
import { CoursePicture } from './course-picture';
import { Extras } from './extras';
import { Keypad } from './keypad';
import { bandAdvice, estimateWords, pendingStamp, presentOf, soFarWords } from './run-model';
import { SimulatedPanel } from './simulated-panel';
import { useClockWatch } from './use-clock-watch';
import { clockTime, countdown, useNow } from './use-now';
import { useShortcuts } from './use-shortcuts';
import { useSize } from './use-size';

const stampWords: Record<ReadingRole, string> = {
  zero: 'Read zero',
  start: 'Stamp the start',
  between: 'Note a reading',
  end: 'Stamp the end',
};

const readingWords: Record<ReadingRole, string> = {
  zero: 'Zero reading',
  start: 'Start reading',
  between: 'Reading',
  end: 'End reading',
};

export function RunScreen({ open, goVerdict }: { readonly open: OpenRun; readonly goVerdict: () => void }) {
  const { run, test, events, judgement, hasPen, write } = open;
  const { kit } = useField();
  const { plan } = run;
  const time = useNow(250);
  const present = presentOf(plan, judgement, time);
  const { phase, state, role, settlingUntil, holding } = present;
  const gauge = useMemo(() => simulatedGauge(plan, events, run.id), [plan, events, run.id]);
  const second = Math.floor(time / 1000);
  const traced = useMemo(() => tracesOf(judgement, events, gauge, second * 1000), [judgement, events, gauge, second]);
  const points = traced.find((one) => one.phase === phase?.id)?.points ?? [];
  const estimate = useMemo(() => (holding ? estimateOf(plan, phase, points) : undefined), [holding, plan, phase, points]);
  const stamp = pendingStamp(events, phase?.id, state?.round, thisDevice());
  const [frame, size] = useSize();
  const [shut, setShut] = useState<string>();
  const unit = unitLabel(plan.gauge.unit);
  const round = state?.round ?? 1;
  const dueAt = settlingUntil ?? (holding ? state?.dueAt : undefined);

  useEffect(keepAwake, []);
  useClockWatch(hasPen && holding && phase !== undefined ? { phase: phase.id, round } : undefined, write);
  useDueAlarm(dueAt, time, phase?.title ?? '');

  const put = useCallback(
    async (value: string, typed: string, source: ReadingSource, as: ReadingRole, moment: Moment, stampId?: string) => {
      if (phase === undefined) return;
      if (as === 'end' && gauge !== undefined && phase.kind === 'hold' && state?.startAt !== undefined) {
        const samples = sampled(gauge, state.startAt, moment.at);
        const scale = decimal(plan.gauge.readability).scale;
        for (let from = 0; from < samples.length; from += 600)
          await write({
            type: 'trace',
            phase: phase.id,
            round,
            startAt: samples[from].at,
            stepMs: 1000,
            unit: plan.gauge.unit,
            scale,
            values: samples.slice(from, from + 600).map(({ shown }) => Number(decimal(shown).digits)),
            source: 'simulated gauge',
          });
      }
      await write(
        {
          type: 'reading',
          phase: phase.id,
          round,
          role: as,
          quantity: 'pressure',
          value,
          unit: plan.gauge.unit,
          typed,
          source,
          ...(stampId === undefined ? {} : { stamp: stampId }),
        },
        moment,
      );
    },
    [phase, gauge, state?.startAt, plan, round, write],
  );

  // By the clock at the press, not at the last redraw: a quarter of a second decides between a note and an end.
  const roleNow = () => presentOf(plan, judgement, now()).role;
  const press = () => {
    unlockSound();
    const as = roleNow();
    if (as !== undefined && stamp === undefined && hasPen && phase !== undefined)
      write({ type: 'stamp', phase: phase.id, round, role: as });
  };
  const takeSimulated = () => {
    unlockSound();
    const as = roleNow();
    if (gauge === undefined || as === undefined || stamp !== undefined || !hasPen) return;
    const moment = thisMoment();
    const shown = gauge.shownAt(moment.at);
    put(shown, shown, 'simulated gauge', as, moment);
  };
  const actPlant = (action: 'scenario' | 'zero' | 'raise', value: string) => write({ type: 'plant', action, value });
  const answer = async (item: CheckItem, as: CheckState, text?: string) => {
    unlockSound();
    if (phase?.kind !== 'check') return;
    await write({ type: 'check', phase: phase.id, round, item: item.id, state: as, ...(text === undefined ? {} : { text }) });
    if (plan.gauge.simulated && item.plant !== undefined && as !== 'undone') await write({ type: 'plant', action: item.plant, value: '1' });
  };
  const middle = phase?.kind === 'hold' ? ((Number(phase.band.low) + Number(phase.band.high)) / 2).toFixed(1) : undefined;
  const cautions =
    phase === undefined
      ? []
      : phase.cautions.filter((caution) => !events.some((event) => event.type === 'caution' && event.caution === caution));
  const understood = async () => {
    unlockSound();
    for (const caution of cautions) await write({ type: 'caution', caution });
  };

  useShortcuts({
    s: press,
    r: takeSimulated,
    u: () => gauge !== undefined && middle !== undefined && role === 'start' && hasPen && actPlant('raise', middle),
    z: () => gauge !== undefined && phase?.kind === 'zero' && hasPen && actPlant('zero', '0'),
    c: understood,
    a: () => {
      const item =
        phase?.kind === 'check' && cautions.length === 0
          ? phase.items.find(({ id }) => state?.items?.every((done) => done.id !== id))
          : undefined;
      if (item !== undefined && item.write === undefined && hasPen) answer(item, item.boundary === undefined ? 'done' : 'plugged');
    },
    d: () => setShut('disturbance'),
    n: () => setShut('note'),
    p: () => setShut('photo'),
    g: () => setShut('smell'),
    e: () => setShut('end'),
    t: () => setShut('temperature'),
    l: () => setShut('leak'),
    v: goVerdict,
    '?': () => setShut('keys'),
  });

  if (phase === undefined)
    return (
      <Frame title={`${test.site} · ${test.system}`} simulated={plan.gauge.simulated} smell={() => setShut('smell')}>
        <div className="p-4">
          <p className="text-xl font-semibold">The course is done.</p>
          <button type="button" className={`${button} mt-3 min-h-14 text-lg`} onClick={goVerdict}>
            Verdict
          </button>
        </div>
      </Frame>
    );

  const left = dueAt === undefined ? undefined : dueAt - time;
  const notes = judgement.reasons.filter(
    (reason) =>
      reason.phase === phase.id &&
      [
        'start-out-of-band',
        'start-too-soon',
        'early-end',
        'reading-refused',
        'second-end',
        'disturbed',
        'clock-jump',
        'rig-leak-seen',
        'hold-rise',
        'late-fall',
        'not-zeroed',
      ].includes(reason.code),
  );
  const restart = judgement.next.find((step) => step.code === 'restart');
  return (
    <Frame title={`${test.site} · ${test.system}`} simulated={plan.gauge.simulated} smell={() => setShut('smell')}>
      <div className="grid min-h-0 flex-1 gap-x-6 max-lg:grid-rows-[auto_1fr] lg:grid-rows-[minmax(0,1fr)] lg:grid-cols-[minmax(0,1fr)_25rem]">
        <section className="flex min-w-0 flex-col" aria-live="polite">
          <div className="flex items-start justify-between gap-4 px-4 pt-2">
            <div className="min-w-0">
              <h1 className="text-lg font-semibold leading-tight lg:text-2xl">
                {phase.title}
                {round > 1 ? `, round ${round}` : ''}
              </h1>
              <p data-testid="say" className="leading-snug lg:text-lg">
                {sentence(phase.kind, phase.say, { settling: settlingUntil !== undefined, holding, left, spoilt: state?.spoilt === true })}
              </p>
            </div>
            {left !== undefined && (
              <div className="shrink-0 text-right">
                <p
                  data-testid="countdown"
                  className={`figures text-5xl font-semibold leading-none lg:text-6xl ${left <= 0 ? 'text-caution' : ''}`}
                >
                  {countdown(left)}
                </p>
                <p className="text-sm text-quiet">{left > 0 ? `due at ${clockTime(dueAt ?? 0)}` : `was due at ${clockTime(dueAt ?? 0)}`}</p>
              </div>
            )}
          </div>
          <div
            ref={frame}
            className={`min-h-40 w-full flex-1 px-1 pt-2 ${phase.kind === 'hold' ? 'max-lg:h-[28dvh] max-lg:flex-none' : ''} ${stamp !== undefined ? 'max-lg:hidden' : ''} ${phase.kind === 'check' ? 'max-lg:max-h-32 max-lg:min-h-32' : ''}`}
          >
            <CoursePicture
              plan={plan}
              judgement={present.view}
              traced={traced}
              estimate={estimate}
              nowSeconds={
                (holding || settlingUntil !== undefined) && state?.startAt !== undefined
                  ? Math.max(0, (time - state.startAt) / 1000)
                  : undefined
              }
              width={Math.max(300, size.width)}
              height={phase.kind === 'check' && size.width < 600 ? 128 : Math.max(160, Math.min(640, size.height))}
              narrow={size.width < 600}
            />
          </div>
          <p className="min-h-6 px-4 pb-2 text-sm" data-testid="judge-so-far">
            {estimate === undefined ? (holding ? soFarWords(plan, phase, state?.start, points) : '') : estimateWords(estimate, unit)}
          </p>
        </section>
        <section className="flex min-h-0 flex-col gap-3 px-4 pb-3 lg:border-l lg:border-line lg:pt-2" aria-label="Now">
          <div className="flex flex-1 flex-col gap-3 lg:min-h-0 lg:overflow-y-auto lg:pr-1">
            {!hasPen && (
              <Notice tone="caution">
                Another device holds the pen: it moves the phases. You can watch, note and photograph here.{' '}
                <button type="button" className="min-h-11 font-semibold underline" onClick={() => write({ type: 'pen' })}>
                  Take the pen
                </button>
              </Notice>
            )}
            {cautions.map((caution) => (
              <Notice key={caution} tone="caution">
                {plan.cautions[caution]}
                {caution === 'smell' && <b className="figures block text-lg">{kit.firm.emergencyNumber}</b>}
              </Notice>
            ))}
            {cautions.length > 0 ? (
              <button type="button" className={`${button} min-h-14 text-lg`} onClick={understood} disabled={!hasPen}>
                Understood <kbd className="text-xs opacity-80">C</kbd>
              </button>
            ) : (
              <>
                {notes.map((note) => (
                  <Notice key={note.sentence} tone="caution" role="alert">
                    {note.code === 'start-out-of-band' && phase.kind === 'hold'
                      ? (bandAdvice(phase, note.data.value, unit, false) ?? note.sentence)
                      : note.sentence}
                  </Notice>
                ))}
                {state?.spoilt === true && phase.kind === 'hold' && (
                  <div className="flex flex-col gap-2">
                    {restart?.code === 'restart' && (
                      <button
                        type="button"
                        className={`${button} min-h-14 text-lg`}
                        disabled={!hasPen}
                        onClick={() =>
                          write({
                            type: 'restart',
                            phase: restart.phase,
                            round: (judgement.phases.find(({ id }) => id === restart.phase)?.round ?? 1) + 1,
                            reason: 'Repeated after a spoilt hold',
                          })
                        }
                      >
                        {restart.label}
                      </button>
                    )}
                    <button type="button" className={`${stopButton} min-h-12`} onClick={() => setShut('end')}>
                      End the test here
                    </button>
                  </div>
                )}
                {phase.kind === 'zero' && state?.spoilt === true && (
                  <Notice tone="stop" role="alert">
                    It shows {state.end} {unit} while disconnected. Zero it and read again, or end the test and take another gauge. Nothing
                    read with it counts.
                  </Notice>
                )}
                {plan.gauge.simulated && phase.kind !== 'check' && phase.kind !== 'observe' && (
                  <SimulatedPanel
                    plan={plan}
                    events={events}
                    run={run.id}
                    phase={phase}
                    begun={holding || settlingUntil !== undefined}
                    mayMove={hasPen}
                    act={actPlant}
                  />
                )}
                {plan.gauge.simulated && phase.kind === 'check' && phase.id === plan.phases[0].id && (
                  <SimulatedPanel plan={plan} events={events} run={run.id} phase={phase} begun={false} mayMove={hasPen} act={actPlant} />
                )}
                {phase.kind === 'check' && state !== undefined && (
                  <CheckPanel key={phase.id} phase={phase} state={state} mayMove={hasPen} answer={answer} />
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
                {stamp !== undefined ? (
                  <Keypad
                    key={stamp.id}
                    gauge={plan.gauge}
                    plausible={plausible(plan.highest, plan.gauge.unit === plan.unit)}
                    keep={stamp.id}
                    label={`${readingWords[stamp.role]}, stamped ${clockTime(stamp.observedAt)}`}
                    onSave={(value, typed) => put(value, typed, 'keypad', stamp.role, { at: stamp.observedAt, mono: stamp.mono }, stamp.id)}
                    onCancel={() => write({ type: 'withdrawn', reading: stamp.id, reason: 'Stamp discarded before a figure was typed' })}
                    advise={(value) =>
                      stamp.role === 'start' && phase.kind === 'hold'
                        ? bandAdvice(
                            phase,
                            value,
                            unit,
                            inBand(decimal(value), plan.gauge.unit, phase.band.low, phase.band.high, plan.unit),
                          )
                        : undefined
                    }
                  />
                ) : (
                  role !== undefined && (
                    <div className="mt-auto flex flex-col gap-2 lg:mt-0">
                      {plan.gauge.simulated && (
                        <button type="button" className={`${quietButton} min-h-12`} disabled={!hasPen} onClick={takeSimulated}>
                          Read the simulated gauge <kbd className="text-xs text-quiet">R</kbd>
                        </button>
                      )}
                      <button
                        type="button"
                        className={`${role === 'between' ? quietButton : button} min-h-16 text-xl`}
                        disabled={!hasPen}
                        onClick={press}
                      >
                        {stampWords[role]} <kbd className="text-xs opacity-80">S</kbd>
                      </button>
                    </div>
                  )
                )}
              </>
            )}
          </div>
          <Extras
            key={run.id}
            open={open}
            phase={phase.id}
            round={round}
            dialog={shut}
            setDialog={setShut}
            holding={holding}
            emergencyNumber={kit.firm.emergencyNumber}
            cautions={plan.cautions}
          />
          <footer className="mt-1 flex items-center justify-between gap-3">
            <SignalLine />
            {judgement.provisional !== 'in progress' && (
              <button type="button" className="min-h-11 font-semibold underline" onClick={goVerdict}>
                Verdict so far
              </button>
            )}
          </footer>
        </section>
      </div>
    </Frame>
  );
}

function sentence(
  kind: string,
  say: string,
  now: { readonly settling: boolean; readonly holding: boolean; readonly left?: number; readonly spoilt: boolean },
): string {
  if (now.spoilt && kind === 'hold') return 'This round does not count. Read why, then repeat it or end the test.';
  if (now.settling)
    return (now.left ?? 0) <= 10_000
      ? 'Eyes on the gauge: the hold starts next.'
      : 'Let it settle. Nothing may be touched; re-adjust only if it drifts out of the band.';
  if (!now.holding || now.left === undefined) return say;
  if (now.left <= 0) return 'Due. Stamp the end reading now.';
  return now.left <= 10_000 ? 'Eyes on the gauge.' : 'Touch nothing. The clock runs.';
}

/** Twice the highest pressure of the plan: a literal figure above it must be missing its point. */
const plausible = (highest: string, sameUnit: boolean): string =>
  sameUnit && compare(decimal(highest), decimal('0')) > 0 ? String(Number(highest) * 2) : '1000000';

/** Sounds once when a phase falls due while this screen is open, and flashes the title until it is dealt with. */
function useDueAlarm(dueAt: number | undefined, time: number, title: string): void {
  const sounded = useRef<number>(undefined);
  const due = dueAt !== undefined && time >= dueAt;
  useEffect(() => {
    if (!due || dueAt === undefined) return;
    // One long past on opening is shown, not sounded.
    if (sounded.current !== dueAt && time - dueAt < 5000) soundAlarm();
    sounded.current = dueAt;
  }, [due, dueAt, time]);
  useEffect(() => {
    const before = document.title;
    document.title = due
      ? Math.floor(time / 1000) % 2 === 0
        ? `Due: ${title}`
        : 'Vast Stone'
      : dueAt === undefined
        ? 'Run · Vast Stone'
        : `${countdown(dueAt - time)} ${title}`;
    return () => {
      document.title = before;
    };
  }, [due, dueAt, time, title]);
}

function Frame({
  title,
  simulated,
  smell,
  children,
}: {
  readonly title: string;
  readonly simulated: boolean;
  readonly smell: () => void;
  readonly children: React.ReactNode;
}) {
  return (
    <main className="mx-auto flex min-h-dvh max-w-[1500px] flex-col lg:h-dvh">
      <header className="flex items-center justify-between gap-3 px-4 pt-2 text-sm text-quiet">
        <span className="truncate">
          <a href="/today" className="underline">
            Today
          </a>{' '}
          · {title}
        </span>
        <span className="flex shrink-0 items-center gap-3">
          {simulated && <Simulated />}
          <button type="button" className={`${stopButton} min-h-12 px-3 text-sm`} onClick={smell}>
            Smell of gas <kbd className="text-xs max-lg:hidden">G</kbd>
          </button>
        </span>
      </header>
      {children}
    </main>
  );
}
