'use client';

import { useCallback, useEffect, useMemo, useState } from 'react';
import { dateText } from '@/core/judging/events';
import { timeText } from '@/core/judging/exact';
import { type Plan, type Planned, type PlanResult, planTest } from '@/core/planning/plan';
import { type Answers, isAsked, type Procedure, proceduresFor } from '@/core/procedures';
import type { Problem } from '@/core/quantities/result';
import { inSentence } from '@/core/record/words';
import { now, offsetMinutes } from '@/features/field/clock';
import { SignalLine, useField } from '@/features/field/field';
import { startAttempt, startTest } from '@/features/field/log';
import { may } from '@/server/actor';
import type { KitSystem } from '@/server/field';
import { button, heading, input, link, subheading } from '@/ui/classes';
import { Field } from '@/ui/field';
import { Notice } from '@/ui/notice';
import { Question } from '@/ui/question';
import { GaugeChoice, rankOf } from './gauge-choice';
import { PlanSheet } from './plan-sheet';

interface Draft {
  readonly answers: Readonly<Record<string, string>>;
  readonly pipes: string;
  readonly statedVolume: string;
  readonly gaugeId: string;
  /** The firm's own procedure that is followed; empty for the procedure itself. */
  readonly variantId: string;
  readonly jobOrigin: string;
  readonly meterNumber: string;
  readonly meterReading: string;
  readonly visualInspection: boolean;
}

/** A plan's draft survives reload: nothing typed is lost. Each purpose of a plan keeps its own. */
const draftKey = ({ systemId, attemptOf, avoidGauge, withAnswers }: PlanProps) =>
  `vast-stone-plan-${systemId}-${attemptOf?.testId ?? 'new'}-${attemptOf?.number ?? 1}-${avoidGauge ?? ''}-${JSON.stringify(withAnswers ?? {})}`;

function readDraft(key: string): Partial<Draft> {
  try {
    return JSON.parse(sessionStorage.getItem(key) ?? '{}');
  } catch {
    return {};
  }
}

const today = () => dateText(now() + offsetMinutes() * 60_000);

interface PlanProps {
  readonly systemId: string;
  readonly attemptOf?: { readonly testId: string; readonly number: number };
  readonly avoidGauge?: string;
  /** Answers to start from, where another test would tell more. */
  readonly withAnswers?: Answers;
  readonly open: (run: string) => void;
}

/** Plans a test of a system, or a new attempt of `testId`. */
export function PlanScreen(props: PlanProps) {
  const { kit } = useField();
  const before = usePlanBefore(props.attemptOf?.testId);
  const system = kit.systems.find(({ id }) => id === props.systemId);
  const procedure = system === undefined ? undefined : proceduresFor(system.kind)[0];
  if (system !== undefined && procedure !== undefined)
    return before === 'opening' ? (
      <p className="p-6 text-quiet">Opening the plan…</p>
    ) : (
      <PlanForm {...props} system={system} procedure={procedure} {...(before === undefined ? {} : { before })} />
    );
  return (
    <main className="mx-auto max-w-xl p-6">
      <h1 className={heading}>{system === undefined ? 'This system is not on this device' : 'There is no procedure for it yet'}</h1>
      <p className="mt-2 text-quiet">
        {system === undefined
          ? 'It may have been added after your last sync, or belong to someone else. Open this page once with signal, or choose a system from the list of sites.'
          : `${system.name} is a system of a kind (${system.kind}) that no procedure here covers. Test it by your own code.`}
      </p>
      <a href="/sites" className={`${link} mt-4 inline-block`}>
        Sites
      </a>
    </main>
  );
}

/** Plan of a test's last attempt, from this device's store; none for a new test. */
function usePlanBefore(testId: string | undefined): Plan | 'opening' | undefined {
  const { store } = useField();
  const [plan, setPlan] = useState<Plan | 'opening' | undefined>(testId === undefined ? undefined : 'opening');
  useEffect(() => {
    if (testId === undefined) return;
    store.runs
      .where('testId')
      .equals(testId)
      .toArray()
      .then((runs) => setPlan(runs.sort((a, b) => b.number - a.number)[0]?.plan));
  }, [store, testId]);
  return plan;
}

/** Left the questions in trade order, right what they come to. */
function PlanForm(
  props: PlanProps & {
    readonly system: KitSystem;
    readonly procedure: Procedure;
    /** Plan of the attempt before this one: a new attempt starts from it. */
    readonly before?: Plan;
  },
) {
  const { attemptOf, avoidGauge, withAnswers, open, system, procedure, before } = props;
  const { kit, store, person, send } = useField();
  const key = draftKey(props);
  // A kit that was taken along by an earlier build has none.
  const own = useMemo(() => (kit.ownProcedures ?? []).filter(({ base }) => base === procedure.id), [kit.ownProcedures, procedure]);
  const [draft, setDraft] = useState<Draft>(() => {
    const defaults = Object.fromEntries(procedure.parameters.map((parameter) => [parameter.id, parameter.default]));
    const suited = kit.gauges.filter(({ id }) => id !== avoidGauge).sort((a, b) => rankOf(a, today()) - rankOf(b, today()));
    const same = suited.find(({ id }) => id === before?.gauge.id);
    return {
      answers: { ...defaults, ...(before?.answers ?? system.answers), ...withAnswers },
      pipes: before?.pipes.join('\n') ?? system.pipes,
      statedVolume: before?.volume.typed ?? system.statedVolume,
      gaugeId: (same ?? suited[0])?.id ?? '',
      variantId: before?.procedure.variant?.id ?? '',
      jobOrigin: '',
      meterNumber: '',
      meterReading: '',
      visualInspection: true,
      ...readDraft(key),
    };
  });
  const [starting, setStarting] = useState(false);
  useEffect(() => sessionStorage.setItem(key, JSON.stringify(draft)), [draft, key]);
  const gauge = kit.gauges.find(({ id }) => id === draft.gaugeId);
  const variant = own.find(({ id }) => id === draft.variantId);
  const result = useMemo<PlanResult>(
    () =>
      gauge === undefined
        ? { ok: false, problems: [{ code: 'gauge-missing', field: 'gauge', message: 'Choose the gauge.' }] }
        : planTest({
            procedure: procedure.id,
            answers: draft.answers,
            pipes: draft.pipes,
            statedVolume: draft.statedVolume,
            gauge,
            houseRules: kit.houseRules,
            ...(variant === undefined ? {} : { variant }),
            on: today(),
          }),
    [draft, gauge, kit.houseRules, procedure, variant],
  );

  const problems = result.ok ? [] : result.problems;
  const of = (field: string): Problem | undefined => problems.find((problem) => problem.field === field);
  const change = (part: Partial<Draft>) => setDraft((last) => ({ ...last, ...part }));
  const answer = useCallback(
    (id: string, value: string) => setDraft((last) => ({ ...last, answers: { ...last.answers, [id]: value } })),
    [],
  );
  // Refused here, not only by the server later: nobody should run a test that will not be taken.
  const mayRun = may(person.role, 'run tests');
  const start = async () => {
    if (!result.ok || starting || !mayRun) return;
    setStarting(true);
    const { plan } = result.value;
    const details = {
      jobOrigin: draft.jobOrigin,
      meterNumber: draft.meterNumber,
      meterReading: draft.meterReading,
      visualInspection: draft.visualInspection ? 'done' : 'not done',
    };
    const run =
      attemptOf === undefined
        ? await startTest(store, person, { id: system.id, name: system.name, site: system.site.name }, plan, details)
        : await startAttempt(store, person, attemptOf.testId, attemptOf.number, plan);
    sessionStorage.removeItem(key);
    send();
    open(run);
  };

  return (
    <main className="mx-auto max-w-6xl px-4 pb-40 pt-4 lg:pb-10">
      <header className="mb-5 flex flex-wrap items-baseline justify-between gap-x-6 gap-y-1">
        <div>
          <p className="text-sm text-quiet">
            <a href="/today" className="underline">
              Today
            </a>{' '}
            · {system.site.name} · {system.name}
          </p>
          <h1 className={heading}>{attemptOf === undefined ? 'Plan the test' : `Plan attempt ${attemptOf.number}`}</h1>
          <p className="text-quiet">
            {procedure.title}, {inSentence(procedure.school)}
          </p>
        </div>
        <SignalLine />
      </header>
      <div className="grid gap-8 lg:grid-cols-[minmax(0,1fr)_minmax(0,1.05fr)]">
        <form
          className="space-y-4"
          onSubmit={(event) => {
            event.preventDefault();
            start();
          }}
          aria-label="Questions"
        >
          {own.length > 0 && (
            <Field
              id="variantId"
              label="Procedure"
              help={
                variant === undefined
                  ? 'Your firm has own procedures that it may be tested by.'
                  : `Version ${variant.version}, ${variant.reference}; a copy of ${procedure.title}.`
              }
            >
              <select
                id="variantId"
                className={input}
                value={variant?.id ?? ''}
                onChange={(event) => change({ variantId: event.target.value })}
              >
                <option value="">
                  {procedure.title}, {inSentence(procedure.school)}
                </option>
                {own.map(({ id, title }) => (
                  <option key={id} value={id}>
                    {title}
                  </option>
                ))}
              </select>
            </Field>
          )}
          <div className="grid gap-4 sm:grid-cols-2">
            {procedure.parameters
              .filter((parameter) => isAsked(procedure, parameter, draft.answers))
              .map((parameter) => (
                <Question
                  key={parameter.id}
                  parameter={parameter}
                  value={draft.answers[parameter.id] ?? ''}
                  answer={answer}
                  problem={of(parameter.id)}
                />
              ))}
          </div>
          <Field
            id="pipes"
            label="Pipe schedule"
            help="A line each: size, material, length, or its low and high estimate. 22cu 6.5 · 22cu 6..9 · 1sch40 40ft · 20dn 3 · 16x2pex 8 · 21.3bore 4"
            problem={
              of('size') ??
              of('length') ??
              (of('volume')?.code === 'volume-missing' ? of('volume') : undefined) ??
              problems.find(({ code }) => code.startsWith('pipe-line'))
            }
          >
            <textarea
              id="pipes"
              rows={Math.max(3, draft.pipes.split('\n').length + 1)}
              className={`${input} figures`}
              value={draft.pipes}
              disabled={draft.statedVolume.trim() !== ''}
              onChange={(event) => change({ pipes: event.target.value })}
              spellCheck={false}
            />
          </Field>
          <Field
            id="statedVolume"
            label="Or the volume of the pipes, if the lengths are not known"
            help="Measured, or estimated as 10..14 L: it is planned for the larger, which hides a larger leak. Leave empty to use the schedule."
            problem={of('volume')?.code === 'volume-missing' ? undefined : of('volume')}
          >
            <input
              id="statedVolume"
              className={`${input} figures`}
              placeholder="12.5 L"
              value={draft.statedVolume}
              onChange={(event) => change({ statedVolume: event.target.value })}
            />
          </Field>
          <fieldset>
            <legend className="font-medium">Gauge</legend>
            <div className="mt-1 space-y-2">
              {kit.gauges.map((one) => (
                <GaugeChoice
                  key={one.id}
                  gauge={one}
                  chosen={one.id === draft.gaugeId}
                  choose={() => change({ gaugeId: one.id })}
                  result={result}
                  procedure={procedure}
                  on={today()}
                />
              ))}
            </div>
          </fieldset>
          <details className="border-t border-line pt-3">
            <summary className="font-medium">For the record: job, meter, visual inspection</summary>
            <div className="mt-3 grid gap-4 sm:grid-cols-2">
              <Field id="jobOrigin" label="Job origin" help="Yearly round, call-out, new tenant…">
                <input
                  id="jobOrigin"
                  className={input}
                  value={draft.jobOrigin}
                  maxLength={200}
                  onChange={(event) => change({ jobOrigin: event.target.value })}
                />
              </Field>
              <Field id="meterNumber" label="Meter number" help="As on the meter’s plate.">
                <input
                  id="meterNumber"
                  className={input}
                  value={draft.meterNumber}
                  maxLength={60}
                  onChange={(event) => change({ meterNumber: event.target.value })}
                />
              </Field>
              <Field id="meterReading" label="Meter reading" help="As it stands now.">
                <input
                  id="meterReading"
                  className={input}
                  value={draft.meterReading}
                  maxLength={60}
                  onChange={(event) => change({ meterReading: event.target.value })}
                />
              </Field>
              <label className="flex min-h-11 items-center gap-3 self-end">
                <input
                  type="checkbox"
                  className="size-5 accent-(--action)"
                  checked={draft.visualInspection}
                  onChange={(event) => change({ visualInspection: event.target.checked })}
                />{' '}
                Visual inspection done
              </label>
            </div>
          </details>
        </form>
        <section aria-label="Plan sheet" className="lg:sticky lg:top-4 lg:self-start">
          <h2 className={`${subheading} mb-2`}>The plan</h2>
          {result.ok ? (
            <PlanSheet planned={result.value} />
          ) : (
            <div className="space-y-2" role="alert">
              {problems.map((problem) => (
                <Notice key={problem.code + problem.message} tone="stop">
                  {problem.message}
                </Notice>
              ))}
              <p className="text-quiet">What you typed is kept. Change it, and the plan answers at once.</p>
            </div>
          )}
        </section>
      </div>
      <div className="fixed inset-x-0 bottom-0 border-t border-line bg-surface p-3 lg:static lg:mt-6 lg:border-0 lg:bg-transparent lg:p-0">
        {result.ok && (
          <p className="figures mb-2 text-sm lg:hidden" data-testid="sheet-line">
            {sheetLine(result.value)}
          </p>
        )}
        {!mayRun && (
          <p className="mb-2 font-medium text-caution">Your role ({person.role}) plans tests; a technician or supervisor runs them.</p>
        )}
        <button
          type="button"
          className={`${button} w-full lg:w-auto lg:min-w-64`}
          disabled={!result.ok || starting || !mayRun}
          onClick={start}
        >
          Start the test
        </button>
      </div>
    </main>
  );
}

/** The sheet in one line, for a phone. */
function sheetLine({ plan, gaugeFindings: findings }: Planned): string {
  const hold = plan.phases.find(({ id }) => id === plan.judgedBy);
  if (hold?.kind !== 'hold') return '';
  const permitted = hold.criterion.kind === 'no-fall' ? hold.criterion.permitted : undefined;
  return [
    `raise to ${hold.band.low}–${hold.band.high} ${plan.unit}`,
    `hold ${timeText(hold.seconds)}`,
    permitted === undefined ? `limit ${plan.limit}` : `permitted ${permitted}, pipework ${plan.limit}`,
    findings.length === 0 ? 'gauge fits' : 'gauge does not fit',
  ].join(' · ');
}
