'use client';

import dynamic from 'next/dynamic';
import { useEffect, useState } from 'react';
import { answersTo, type Phase } from '@/core/course';
import { duesOf, heldSoFar, holdsUnderWay, isSpoilt, itemsOf } from '@/core/judging';
import { thisDevice } from '@/device/log';
import { clockTime, countdown, useNow } from '@/device/use-now';
import type { OpenRun } from '@/device/use-run';
import { useAfterFirstScreen, useFirstScreen } from '@/ui/first-screen';
import { useShortcuts } from '@/ui/use-shortcuts';
import { keepAwake } from './alarm';
import { CameLine } from './came-line';
import type { PlanFrom } from './go-on';
import { fetchParts, NowPanel } from './now-panel';
import { Frame } from './run-frame';
import { isPumpedBack, lookedAt, mayNotCome, type Now, type OpenPhase, openHolds, pendingStamp, presentOf, sentence } from './run-model';
import { useClockWatch } from './use-clock-watch';
import { useDueAlarm } from './use-due-alarm';
import { type Hands, useHands } from './use-hands';
import { useSimulatedGauge } from './use-simulated-gauge';
import { useSpoken } from './use-spoken';

const pictureRoom = <div className="min-h-40 flex-1" />;
// What is to be done stands first; the picture follows in the room kept for it.
const LiveCourse = dynamic(() => import('./live-course').then((module) => module.LiveCourse), {
  ssr: false,
  loading: () => pictureRoom,
});

// Only where two circuits are held at once.
const OpenHolds = dynamic(() => import('./open-holds').then((module) => module.OpenHolds), {
  ssr: false,
  loading: () => <div className="min-h-12 border-b border-line" />,
});

/** The course: the phases and their trace, and beside them what to do now. */
export function RunScreen({
  open,
  goVerdict,
  goLocate,
  goPlan,
  beside,
}: {
  readonly open: OpenRun;
  readonly goVerdict: () => void;
  readonly goLocate: () => void;
  readonly goPlan: (from: PlanFrom) => void;
  /** One of several on the screen: only the active one takes the keys, and it can be put away. */
  readonly beside?: { readonly active: boolean; readonly putAway: () => void };
}) {
  const { run, test, events, judgement, hasPen, write } = open;
  const { plan } = run;
  const time = useNow(250);
  const [chosen, setChosen] = useState<{ readonly phase: string; readonly heard: number }>();
  const look = (id: string) => setChosen({ phase: id, heard: events.length });
  const present = presentOf(plan, judgement, events, time, lookedAt(plan, judgement, events, thisDevice(), chosen));
  const holds = openHolds(plan, judgement);
  const { phase, state, settlingUntil, holding } = present;
  const gauge = useSimulatedGauge(plan, events, run.id);
  const stamp = pendingStamp(events, phase, state?.round, thisDevice());
  const [dialog, setDialog] = useState<string>();
  const gas = 'smell' in plan.cautions;
  const round = state?.round ?? 1;
  const dueAt = settlingUntil ?? (holding ? heldSoFar(state)?.dueAt : undefined);

  useEffect(keepAwake, []);
  useFirstScreen();
  const after = useAfterFirstScreen();
  useEffect(() => {
    if (after) fetchParts();
  }, [after]);
  const timed = hasPen ? holdsUnderWay(judgement).filter((one) => time < (heldSoFar(one)?.dueAt ?? 0) || one.state === 'current') : [];
  useClockWatch(
    timed.map(({ id, round: own }) => ({ phase: id, round: own })),
    write,
  );
  useDueAlarm(
    duesOf(plan, judgement).map(({ phase: due, at }) => ({ title: due.title, at })),
    time,
    beside?.active !== false,
  );
  useSpoken(open);
  const hands = useHands(open, present, gauge, stamp);
  useShortcuts(
    beside?.active === false
      ? {}
      : !open.mayWrite
        ? { ...lookKeys(holds, phase, look), v: goVerdict }
        : { ...keysOf(open, hands, present, setDialog), ...dialogKeys(setDialog, gas), ...lookKeys(holds, phase, look), v: goVerdict },
  );

  const left = dueAt === undefined ? undefined : dueAt - time;
  const live = holding && phase?.kind === 'hold' ? gauge?.shownAt(time, phase.instrument) : undefined;
  return (
    <Frame
      title={beside === undefined ? `${test.system} · ${test.site}` : test.system}
      simulated={hands.simulated}
      {...(beside === undefined ? {} : { putAway: beside.putAway })}
      {...(gas && open.mayWrite ? { smell: () => setDialog('smell') } : {})}
    >
      {holds.length > 0 && <OpenHolds holds={holds} shown={phase?.id} time={time} look={look} />}
      <div className="grid min-h-0 flex-1 gap-x-6 @max-5xl:grid-rows-[auto_1fr] @5xl:grid-rows-[minmax(0,1fr)] @5xl:grid-cols-[minmax(0,1fr)_25rem]">
        <section className="flex min-w-0 flex-col">
          <div className="flex items-start justify-between gap-4 px-4 pt-2">
            <div className="min-w-0" aria-live="polite">
              <h1 className="text-lg font-semibold leading-tight @5xl:text-2xl">
                {phase?.title ?? 'All phases are done'}
                {round > 1 ? `, round ${round}` : ''}
              </h1>
              <p data-testid="say" className="leading-snug @5xl:text-lg">
                {phase === undefined
                  ? 'Read the verdict, sign, and seal the certificate.'
                  : sentence(phase.kind, phase.say, {
                      settling: settlingUntil !== undefined,
                      holding,
                      left,
                      spoilt: isSpoilt(state),
                      ...(phase.kind === 'hold' && phase.meanwhile !== undefined ? { meanwhile: phase.meanwhile } : {}),
                      owes: state?.state === 'current' && state.is === 'ended' ? state.owes : undefined,
                    })}
              </p>
              <CameLine open={open} present={present} time={time} {...(live === undefined ? {} : { live })} />
            </div>
            {left !== undefined && (
              // A timer that speaks every second would drown the sentence; its minutes can be asked for.
              <div className="shrink-0 text-right" role="timer" aria-live="off">
                <p
                  data-testid="countdown"
                  className={`figures text-5xl font-semibold leading-none @5xl:text-6xl ${left <= 0 ? 'text-caution' : ''}`}
                >
                  {countdown(left)}
                </p>
                <p className="text-sm text-quiet">{left > 0 ? `due at ${clockTime(dueAt ?? 0)}` : `was due at ${clockTime(dueAt ?? 0)}`}</p>
              </div>
            )}
          </div>
          {after ? <LiveCourse open={open} present={present} gauge={gauge} typing={stamp !== undefined} /> : pictureRoom}
        </section>
        <NowPanel
          open={open}
          present={present}
          hands={hands}
          {...(stamp === undefined ? {} : { stamp })}
          {...(dialog === undefined ? {} : { dialog })}
          setDialog={setDialog}
          goVerdict={goVerdict}
          goLocate={goLocate}
          goPlan={goPlan}
        />
      </div>
    </Frame>
  );
}

type Keys = Readonly<Record<string, () => unknown>>;

/** Keys of the technician's hands; each does just what its button would, and only where there is one. */
function keysOf({ hasPen, write }: OpenRun, hands: Hands, { phase, state, ask, holding }: Now, setDialog: (dialog: string) => void): Keys {
  const move = (key: 'Z' | 'U') => () => {
    const found = hands.moves.find((one) => one.key === key);
    if (found !== undefined && hasPen) hands.actPlant(found.action, found.value);
  };
  const options = phase?.kind === 'observe' && hands.cautions.length === 0 ? phase.options : [];
  return {
    s: hands.press,
    r: hands.takeSimulated,
    u: move('U'),
    z: move('Z'),
    c: () => hasPen && hands.understood(),
    a: () => {
      const item =
        phase?.kind === 'check' && hands.cautions.length === 0
          ? phase.items.find(({ id }) => itemsOf(state).every((done) => done.id !== id))
          : undefined;
      // What is to be written or read is no matter of one key.
      if (item !== undefined && item.write === undefined && item.guard !== true && item.pauseSeconds === undefined && hasPen)
        hands.answer(item, answersTo(item)[0]);
    },
    x: () => mayNotCome(ask, phase) && setDialog('not-reached'),
    f: () => ask?.role === 'start' && ask.quantity === 'pressure' && setDialog('log'),
    b: () => holding && isPumpedBack(phase) && setDialog('pump-back'),
    ...Object.fromEntries(
      options.map(({ id }, index) => [
        String(index + 1),
        () => hasPen && phase !== undefined && write({ type: 'observation', phase: phase.id, round: state?.round ?? 1, option: id }),
      ]),
    ),
  };
}

/** Goes on to the next of several holds. */
const lookKeys = (holds: readonly OpenPhase[], phase: Phase | undefined, look: (id: string) => void): Keys =>
  holds.length === 0 ? {} : { h: () => look(holds[(holds.findIndex((one) => one.phase.id === phase?.id) + 1) % holds.length].phase.id) };

const dialogKeys = (setDialog: (dialog: string) => void, gas: boolean): Keys => ({
  d: () => setDialog('disturbance'),
  n: () => setDialog('note'),
  p: () => setDialog('photo'),
  ...(gas ? { g: () => setDialog('smell') } : {}),
  e: () => setDialog('end'),
  t: () => setDialog('temperature'),
  l: () => setDialog('leak'),
  '?': () => setDialog('keys'),
});
