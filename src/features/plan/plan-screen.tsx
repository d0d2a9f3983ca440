'use client';

import { useDeferredValue, useEffect, useMemo, useState } from 'react';
import { addressOf, may } from '@/core/permissions';
import { asOf, type Change, openQuestions, type Plan, type PlanInput, type PlanResult, planTest, volumeDecides } from '@/core/planning';
import { type Answers, type Procedure, procedureById, proceduresFor } from '@/core/procedures';
import type { Problem } from '@/core/quantities';
import { inSentence } from '@/core/record';
import { type Gauge, isBarometer, isThermometer, noGauge } from '@/core/sizing';
import type { Ground, GroundSystem } from '@/device/ground';
import { startAttempt, startTest } from '@/device/log';
import { useDevice } from '@/device/provider';
import { pin } from '@/device/register';
import { today, useGround } from '@/device/use-ground';
import { Absent, Page } from '@/features/frame/page';
import type { Place } from '@/features/frame/places';
import { SignalLine } from '@/features/frame/signal-line';
import { To } from '@/features/frame/source';
import { Button } from '@/ui/button';
import { link, subheading } from '@/ui/classes';
import { Disclosure } from '@/ui/disclosure';
import { Notice } from '@/ui/notice';
import { SheetDialog } from '@/ui/sheet-dialog';
import { useButtonKeys } from '@/ui/use-shortcuts';
import { InstrumentChoice } from './instrument-choice';
import { PipeFields } from './pipe-fields';
import { PlanSheet, sheetLine } from './plan-sheet';
import { ProcedureChoice } from './procedure-choice';
import { QuestionList } from './question-list';
import { pointAtTooLong, RecordFields } from './record-fields';
import { Sharpen } from './sharpen';
import { equip } from './suited';
import { startOfPlan, useDraft, usualStart } from './use-draft';
import { WeatherChoice } from './weather-choice';

/** Each purpose of a plan keeps its own draft, and so does each procedure. */
const draftKey = ({ systemId, attemptOf, avoidGauge, withAnswers }: PlanProps) =>
  `vast-stone-plan-${systemId}-${attemptOf?.testId ?? 'new'}-${attemptOf?.number ?? 1}-${avoidGauge ?? ''}-${JSON.stringify(withAnswers ?? {})}`;

interface PlanProps {
  readonly ground: Ground;
  readonly systemId: string;
  readonly attemptOf?: { readonly testId: string; readonly number: number };
  readonly avoidGauge?: string;
  /** Answers to start from, where another test would tell more. */
  readonly withAnswers?: Answers;
  /** Procedure to start with, where another page has chosen one. */
  readonly procedureId?: string;
  readonly open: (run: string) => void;
}

/** Answers from the address; whatever is not a list of texts there is as good as none. */
function readAnswers(text: string | undefined): Answers | undefined {
  if (text === undefined) return undefined;
  try {
    return Object.fromEntries(Object.entries(JSON.parse(text) as object).filter(([, value]) => typeof value === 'string'));
  } catch {
    return {};
  }
}

/** Plans a test of a system, or a new attempt of a test. */
export function PlanScreen({ place, go }: { readonly place: Extract<Place, { at: 'plan' }>; readonly go: (place: Place) => void }) {
  const { system, test, number, avoid, procedure, with: answers } = place;
  const ground = useGround(system);
  const brought = useBrought(system, ground);
  if (ground === undefined || (ground === 'absent' && brought !== 'no')) return <p className="p-6 text-quiet">Opening the plan…</p>;
  if (ground === 'absent')
    return (
      <Absent
        title="This system is not on this device"
        back={
          <To place={{ at: 'sites' }} className={link}>
            Sites
          </To>
        }
      >
        It may have been added after your last sync, or belong to someone else. Open its site once with signal.
      </Absent>
    );
  return (
    <PlanOf
      ground={ground}
      systemId={system}
      {...(test === undefined ? {} : { attemptOf: { testId: test, number: Number(number ?? 2) } })}
      avoidGauge={avoid}
      procedureId={procedure}
      withAnswers={readAnswers(answers)}
      open={(run) => go({ at: 'run', run })}
    />
  );
}

/** A system that is not on this device is looked for at the server once. */
function useBrought(system: string, ground: Ground | 'absent' | undefined): 'asking' | 'no' | undefined {
  const { store, refresh } = useDevice();
  const [asked, setAsked] = useState<'asking' | 'no'>();
  const isAbsent = ground === 'absent';
  useEffect(() => {
    if (!isAbsent) return;
    setAsked('asking');
    void siteOfSystem(system)
      .then((site) => (site === undefined ? undefined : pin(store, site, 'opened').then(refresh)))
      .then(async () => setAsked((await store.systems.get(system)) === undefined ? 'no' : undefined));
  }, [store, refresh, system, isAbsent]);
  return asked;
}

async function siteOfSystem(system: string): Promise<string | undefined> {
  try {
    const response = await fetch(`${addressOf('GET /api/field/search')}?system=${encodeURIComponent(system)}`);
    const [found] = response.ok ? ((await response.json()) as readonly { readonly site: { readonly id: string } }[]) : [];
    return found?.site.id;
  } catch {
    return undefined;
  }
}

function PlanOf(props: PlanProps) {
  const { ground } = props;
  const before = usePlanBefore(props.attemptOf?.testId);
  const system = ground.systems.find(({ id }) => id === props.systemId);
  const key = draftKey(props);
  const [chosen, setChosen] = useState<{ readonly id: string; readonly variantId?: string } | undefined>(() => {
    const id = sessionStorage.getItem(`${key}-procedure`);
    return id === null ? undefined : { id };
  });
  if (system === undefined || before === 'opening') return <p className="p-6 text-quiet">Opening the plan…</p>;
  const suited = proceduresFor(system.kind);
  const last = ground.earlier.find(({ systemId }) => systemId === system.id)?.procedure;
  const wanted = before?.procedure.id ?? chosen?.id ?? props.procedureId ?? last;
  // Where several could be meant, nobody presumes which; a rig's check is not meant by whoever plans a system's test.
  const meant = suited.filter(({ id }) => id !== 'rig-check');
  const procedure =
    suited.find(({ id }) => id === wanted) ??
    (before === undefined ? (meant.length === 1 ? meant[0] : undefined) : procedureById(before.procedure.id));
  if (suited.length === 0) return <p className="p-6 text-quiet">No procedure here covers this kind of system. Test it by your own code.</p>;
  if (procedure === undefined)
    return (
      <Page
        trail={<Where system={system} />}
        title="Which test is it?"
        line="The procedure decides pressures, times and limits."
        signal={<SignalLine />}
      >
        <ul className="divide-y divide-line border-y border-line">
          {suited.map(({ id, title, school, purpose }) => (
            <li key={id}>
              <button
                type="button"
                className="min-h-14 w-full py-2 text-left hover:bg-sunken"
                onClick={() => {
                  sessionStorage.setItem(`${key}-procedure`, id);
                  setChosen({ id });
                }}
              >
                <b className="text-lg">{title}</b> <span className="text-quiet">{inSentence(school)}</span>
                <span className="block text-sm text-quiet">{purpose}</span>
              </button>
            </li>
          ))}
        </ul>
      </Page>
    );
  return (
    <PlanForm
      key={procedure.id}
      {...props}
      system={system}
      procedure={procedure}
      // An attempt is of the same test: another procedure is another test.
      procedures={before === undefined ? suited : [procedure]}
      chooseProcedure={(id, variantId) => {
        sessionStorage.setItem(`${key}-procedure`, id);
        setChosen({ id, variantId });
      }}
      {...(chosen?.variantId === undefined ? {} : { variantId: chosen.variantId })}
      {...(before === undefined ? {} : { before })}
    />
  );
}

const Where = ({ system }: { readonly system: GroundSystem }) => (
  <>
    <To place={{ at: 'site', site: system.site.id }} className="underline">
      {system.site.name}
    </To>{' '}
    · {system.name}
  </>
);

/** Plan of a test's last attempt, from this device's store; none for a new test. */
function usePlanBefore(testId: string | undefined): Plan | 'opening' | undefined {
  const { store } = useDevice();
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
    readonly system: GroundSystem;
    readonly procedure: Procedure;
    readonly procedures: readonly Procedure[];
    readonly chooseProcedure: (id: string, variantId: string) => void;
    /** The firm's own procedure, where it was chosen together with this one. */
    readonly variantId?: string;
    /** Plan of the attempt before this one: a new attempt starts from it. */
    readonly before?: Plan;
  },
) {
  useButtonKeys();
  const { attemptOf, avoidGauge, withAnswers, open, system, procedure, procedures, chooseProcedure, before, ground } = props;
  const { store, person, send } = useDevice();
  const own = useMemo(() => ground.ownProcedures.filter(({ base }) => base === procedure.id), [ground.ownProcedures, procedure]);
  const { draft, change, answer, pipe, copy, forget } = useDraft(
    `${draftKey(props)}-${procedure.id}`,
    procedure,
    () => {
      const start = before === undefined ? usualStart(ground, system, procedure) : startOfPlan(before);
      const { from } = start;
      return {
        ...start,
        answers: { ...start.answers, ...withAnswers },
        from: Object.fromEntries(Object.entries(from).filter(([id]) => !Object.hasOwn(withAnswers ?? {}, id))),
        ...(avoidGauge !== undefined && start.gaugeId === avoidGauge ? { gaugeId: '' } : {}),
      };
    },
    props.variantId,
  );
  const [starting, setStarting] = useState(false);
  const on = today();
  const variant = own.find(({ id }) => id === draft.variantId);
  const weather = useMemo(
    () => ({
      thermometer: ground.instruments.filter(isThermometer).find(({ id }) => id === draft.thermometerId),
      barometer: ground.instruments.filter(isBarometer).find(({ id }) => id === draft.barometerId),
    }),
    [ground.instruments, draft.thermometerId, draft.barometerId],
  );
  const input = useMemo(
    () => ({
      procedure: procedure.id,
      answers: draft.answers,
      pipes: draft.pipes,
      statedVolume: draft.statedVolume,
      houseRules: ground.houseRules,
      stricter: draft.stricter,
      weather,
      variant,
      on,
    }),
    [draft.answers, draft.pipes, draft.statedVolume, draft.stricter, ground.houseRules, procedure.id, variant, weather, on],
  );
  // Every gauge is planned with: that may lag a keystroke behind the sheet.
  const lagging = useDeferredValue(input);
  const chosen = useMemo(
    () => ({ gaugeId: draft.gaugeId, instrumentIds: draft.instrumentIds, avoid: avoidGauge }),
    [draft.gaugeId, draft.instrumentIds, avoidGauge],
  );
  const equipment = useMemo(() => equip(procedure, ground.instruments, lagging, chosen), [procedure, ground.instruments, lagging, chosen]);
  const gauge: Gauge | undefined = procedure.noGauge === true ? noGauge : equipment.gauge;
  const whole = useMemo<PlanInput | undefined>(
    () => (gauge === undefined ? undefined : { ...input, gauge, instruments: equipment.instruments }),
    [input, gauge, equipment.instruments],
  );
  const result = useMemo<PlanResult>(
    () =>
      whole === undefined
        ? { ok: false, problems: [{ code: 'gauge-missing', field: 'gauge', message: 'Choose the gauge; add one under Instruments.' }] }
        : planTest(whole),
    [whole],
  );
  const take = ({ answers, gauge: other, weather: by, stricter = [] }: Change) =>
    change({
      answers: { ...draft.answers, ...answers },
      gaugeId: other?.id ?? draft.gaugeId,
      thermometerId: by?.thermometer?.id ?? draft.thermometerId,
      barometerId: by?.barometer?.id ?? draft.barometerId,
      stricter: [...draft.stricter.filter(({ figure }) => stricter.every((one) => one.figure !== figure)), ...stricter],
    });

  const problems = result.ok ? [] : result.problems;
  const toAnswer = openQuestions(procedure, draft.answers);
  const [recordShown, setRecordShown] = useState(false);
  // What is only open yet is no fault; it is one for whoever starts all the same.
  const [tried, setTried] = useState(false);
  const isOpen = ({ code }: Problem) =>
    code === 'answer-missing' || code === 'volume-missing' || code === 'instrument-missing' || code === 'gauge-missing';
  const said = tried ? problems : problems.filter((problem) => !isOpen(problem));
  // Refused here, not only by the server later: nobody should run a test that will not be taken.
  const mayRun = may(person.role, 'run tests');
  const start = async () => {
    if (starting || !mayRun) return;
    if (!result.ok) {
      setTried(true);
      const at = toAnswer[0]?.id ?? problems.find(({ field }) => field !== undefined)?.field ?? '';
      const field = document.getElementById(at) ?? document.getElementById('pipes');
      field?.scrollIntoView({ block: 'center' });
      (field?.matches('input, textarea, button') === true ? field : field?.querySelector<HTMLElement>('button, input'))?.focus();
      return;
    }
    if (pointAtTooLong(draft, () => setRecordShown(true))) return;
    setStarting(true);
    const plan = asOf(result.value.plan, ground.asOf);
    const details = {
      jobOrigin: draft.jobOrigin,
      meterNumber: draft.meterNumber,
      meterReading: draft.meterReading,
      visualInspection: draft.visualInspection ? 'done' : 'not done',
    };
    try {
      const run =
        attemptOf === undefined
          ? await startTest(store, person, { id: system.id, name: system.name, site: system.site.name }, plan, details)
          : await startAttempt(store, person, attemptOf.testId, attemptOf.number, plan);
      forget();
      send();
      open(run);
    } catch (error) {
      // What could not be kept is said above; once there is room, the same press starts it.
      setStarting(false);
      throw error;
    }
  };

  const [sheetOpen, setSheetOpen] = useState(false);
  const sheet = result.ok ? (
    <PlanSheet
      planned={result.value}
      procedure={procedure}
      sharpen={whole === undefined ? undefined : <Sharpen input={whole} plan={result.value.plan} van={ground.instruments} take={take} />}
    />
  ) : (
    <div className="space-y-2">
      <p className="text-quiet">{openWords(toAnswer, problems)}. The plan answers as soon as they are known; what you typed is kept.</p>
      {said.map((problem) => (
        <Notice key={problem.code + problem.message} tone="stop" role="alert">
          {problem.message}
        </Notice>
      ))}
    </div>
  );
  return (
    <Page
      width="whole"
      trail={<Where system={system} />}
      title={attemptOf === undefined ? 'Plan the test' : `Plan attempt ${attemptOf.number}`}
      line={`${procedure.title}, ${inSentence(procedure.school)}`}
      signal={<SignalLine />}
    >
      <div className="grid grid-cols-[minmax(0,1fr)] gap-8 lg:grid-cols-[minmax(0,1fr)_minmax(0,1.05fr)]">
        <form
          className="space-y-4"
          onSubmit={(event) => {
            event.preventDefault();
            start();
          }}
          aria-label="Questions"
        >
          <QuestionList procedure={procedure} draft={draft} answer={answer} problems={said} />
          {procedure.volumeFrom === 'pipes' && (
            <PipeFields
              draft={draft}
              change={change}
              pipe={pipe}
              problems={said}
              decides={volumeDecides(procedure, draft.answers)}
              byGas={!/water/.test(result.ok ? result.value.plan.medium : procedure.medium)}
            />
          )}
          {procedure.noGauge !== true && (
            <InstrumentChoice
              name="gauge"
              label="Gauge"
              planned={result.ok}
              offered={equipment.gauges}
              chosenId={gauge?.id ?? ''}
              choose={(gaugeId) => change({ gaugeId })}
              advise={(one) => procedure.gaugeAdvice?.(one as Gauge)}
              none="The firm has no pressure gauge yet: add one under Instruments."
            />
          )}
          {equipment.roles.map(({ role, offered, chosen: own }) => (
            <InstrumentChoice
              key={role.role}
              name={role.role}
              label={role.label}
              planned={result.ok}
              offered={offered}
              chosenId={own?.id ?? ''}
              choose={(id) => change({ instrumentIds: { ...draft.instrumentIds, [role.role]: id } })}
              none={role.orGauge === true ? 'The gauge above is used.' : 'The firm has none yet: add it under Instruments.'}
            />
          ))}
          <WeatherChoice draft={draft} change={change} instruments={ground.instruments} plan={result.ok ? result.value.plan : undefined} />
          <Disclosure
            look="font-medium"
            className="border-t border-line pt-1"
            title={procedures.length > 1 ? 'Another procedure, or the plan of an earlier test' : 'Copy the plan of an earlier test'}
          >
            <ProcedureChoice
              procedure={procedure}
              procedures={procedures}
              own={ground.ownProcedures}
              variantId={variant?.id ?? ''}
              choose={(id, variantId) => {
                if (id === procedure.id) change({ variantId });
                else chooseProcedure(id, variantId);
              }}
              system={system}
              earlier={attemptOf === undefined ? ground.earlier : []}
              systems={ground.systems}
              copy={copy}
            />
          </Disclosure>
          <RecordFields
            draft={draft}
            change={change}
            metered={system.kind === 'gas' || system.kind === 'water'}
            shown={recordShown}
            show={setRecordShown}
          />
        </form>
        <section
          aria-label="Plan sheet"
          className="max-lg:hidden lg:sticky lg:top-4 lg:max-h-[calc(100dvh-2rem)] lg:self-start lg:overflow-y-auto"
        >
          <h2 className={`${subheading} mb-2`}>The plan</h2>
          {sheet}
        </section>
      </div>
      <div className="sticky bottom-[calc(var(--foot)-0.5rem)] -mx-4 mt-6 border-t border-line bg-surface p-3 lg:static lg:mx-0 lg:mt-6 lg:border-0 lg:bg-transparent lg:p-0">
        <button
          type="button"
          className="mb-2 flex min-h-11 w-full items-center justify-between gap-3 text-left text-sm lg:hidden"
          aria-expanded={sheetOpen}
          onClick={() => setSheetOpen(true)}
        >
          <span className={result.ok ? 'figures' : 'text-quiet'} data-testid="sheet-line">
            {result.ok ? sheetLine(result.value) : openWords(toAnswer, problems)}
          </span>
          <span className="shrink-0 underline">The plan</span>
        </button>
        {!mayRun && (
          <p className="mb-2 font-medium text-caution">Your role ({person.role}) plans tests; a technician or supervisor runs them.</p>
        )}
        <Button className="w-full lg:w-auto lg:min-w-64" disabled={starting || !mayRun} onClick={start} shortcut="s">
          Start the test
        </Button>
      </div>
      {sheetOpen && (
        <SheetDialog title="The plan" close={() => setSheetOpen(false)}>
          {sheet}
        </SheetDialog>
      )}
    </Page>
  );
}

/** What the plan still waits for. */
function openWords(open: readonly { readonly label: string }[], problems: readonly Problem[]): string {
  if (open.length === 0) {
    const [first] = problems;
    return first === undefined ? 'Nothing is open' : first.message.replace(/\.$/, '');
  }
  const names = open.slice(0, 3).map(({ label }) => label.toLowerCase());
  return `To answer: ${names.join(', ')}${open.length > 3 ? ` and ${open.length - 3} more` : ''}`;
}
