'use client';

import dynamic from 'next/dynamic';
import { useEffect, useMemo, useState } from 'react';
import { estimateOf, tracesOf, warmthOf } from '@/core/judging/trace';
import { unitLabel } from '@/core/quantities';
import { thisDevice } from '@/features/field/log';
import type { OpenRun } from '@/features/field/use-run';
import { useShortcuts } from '@/ui/use-shortcuts';
import { useSize } from '@/ui/use-size';
import { keepAwake } from './alarm';
import { NowPanel } from './now-panel';
import { Frame } from './run-frame';
import { estimateWords, type Now, pendingStamp, presentOf, sentence, soFarWords } from './run-model';
import { useClockWatch } from './use-clock-watch';
import { useDueAlarm } from './use-due-alarm';
import { type Hands, useHands } from './use-hands';
import { clockTime, countdown, useNow } from './use-now';
import { useSimulatedGauge } from './use-simulated-gauge';

// What is to be done stands first; the picture follows in the room kept for it.
const CoursePicture = dynamic(() => import('./course-picture').then((module) => module.CoursePicture), { ssr: false });

/** The course: the phases and their trace, and beside them what to do now. */
export function RunScreen({ open, goVerdict }: { readonly open: OpenRun; readonly goVerdict: () => void }) {
  const { run, test, events, judgement, hasPen, write } = open;
  const { plan } = run;
  const time = useNow(250);
  const present = presentOf(plan, judgement, time);
  const { phase, state, settlingUntil, holding } = present;
  const gauge = useSimulatedGauge(plan, events, run.id);
  const second = Math.floor(time / 1000);
  const traced = useMemo(() => tracesOf(plan, judgement, events, gauge, second * 1000), [plan, judgement, events, gauge, second]);
  const points = traced.find((one) => one.phase === phase?.id)?.points ?? [];
  const estimate = useMemo(
    () => (holding ? estimateOf(plan, phase, points, warmthOf(judgement, events, phase?.id ?? '')) : undefined),
    [holding, plan, phase, points, judgement, events],
  );
  const stamp = pendingStamp(events, phase?.id, state?.round, thisDevice());
  const [frame, size] = useSize();
  const [dialog, setDialog] = useState<string>();
  const unit = unitLabel(plan.unit);
  const round = state?.round ?? 1;
  const dueAt = settlingUntil ?? (holding ? state?.dueAt : undefined);

  useEffect(keepAwake, []);
  const timed = holding || settlingUntil !== undefined;
  useClockWatch(hasPen && timed && phase !== undefined ? { phase: phase.id, round } : undefined, write);
  useDueAlarm(dueAt, time, phase?.title ?? '');
  const hands = useHands(open, present, gauge, stamp);
  useShortcuts({ ...keysOf(hands, present, hasPen), ...dialogKeys(setDialog), v: goVerdict });

  const left = dueAt === undefined ? undefined : dueAt - time;
  const isList = phase?.kind === 'check' || phase === undefined;
  return (
    <Frame title={`${test.site} · ${test.system}`} simulated={plan.gauge.simulated} smell={() => setDialog('smell')}>
      <div className="grid min-h-0 flex-1 gap-x-6 max-lg:grid-rows-[auto_1fr] lg:grid-rows-[minmax(0,1fr)] lg:grid-cols-[minmax(0,1fr)_25rem]">
        <section className="flex min-w-0 flex-col">
          <div className="flex items-start justify-between gap-4 px-4 pt-2">
            <div className="min-w-0" aria-live="polite">
              <h1 className="text-lg font-semibold leading-tight lg:text-2xl">
                {phase?.title ?? 'All phases are done'}
                {round > 1 ? `, round ${round}` : ''}
              </h1>
              <p data-testid="say" className="leading-snug lg:text-lg">
                {phase === undefined
                  ? 'Read the verdict, sign, and seal the certificate.'
                  : sentence(phase.kind, phase.say, {
                      settling: settlingUntil !== undefined,
                      holding,
                      left,
                      spoilt: state?.spoilt === true,
                    })}
              </p>
            </div>
            {left !== undefined && (
              // A timer that speaks every second would drown the sentence; its minutes can be asked for.
              <div className="shrink-0 text-right" role="timer" aria-live="off">
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
            className={`min-h-40 w-full flex-1 px-1 pt-2 ${phase?.kind === 'hold' ? 'max-lg:h-[28dvh] max-lg:flex-none' : ''} ${stamp !== undefined ? 'max-lg:hidden' : ''} ${isList ? 'max-lg:max-h-32 max-lg:min-h-32' : ''}`}
          >
            <CoursePicture
              plan={plan}
              judgement={present.view}
              traced={traced}
              estimate={estimate}
              nowSeconds={timed && state?.startAt !== undefined ? Math.max(0, (time - state.startAt) / 1000) : undefined}
              width={Math.max(300, size.width)}
              height={isList && size.width < 600 ? 128 : Math.max(160, Math.min(640, size.height))}
              narrow={size.width < 600}
            />
          </div>
          <p className="min-h-6 px-4 pb-2 text-sm" data-testid="judge-so-far">
            {estimate === undefined ? (holding ? soFarWords(plan, phase, state?.start, points) : '') : estimateWords(estimate, unit, phase)}
          </p>
        </section>
        <NowPanel
          open={open}
          present={present}
          hands={hands}
          {...(stamp === undefined ? {} : { stamp })}
          {...(dialog === undefined ? {} : { dialog })}
          setDialog={setDialog}
          goVerdict={goVerdict}
        />
      </div>
    </Frame>
  );
}

type Keys = Readonly<Record<string, () => unknown>>;

/** Keys of the technician's hands; each does just what its button would, and only where there is one. */
function keysOf(hands: Hands, { phase, state, role }: Now, hasPen: boolean): Keys {
  return {
    s: hands.press,
    r: hands.takeSimulated,
    u: () => hands.simulated && hands.middle !== undefined && role === 'start' && hasPen && hands.actPlant('raise', hands.middle),
    z: () => hands.simulated && phase?.kind === 'zero' && hasPen && hands.actPlant('zero', '0'),
    c: () => hasPen && hands.understood(),
    a: () => {
      const item =
        phase?.kind === 'check' && hands.cautions.length === 0
          ? phase.items.find(({ id }) => state?.items?.every((done) => done.id !== id))
          : undefined;
      if (item !== undefined && item.write === undefined && hasPen) hands.answer(item, item.boundary === undefined ? 'done' : 'plugged');
    },
  };
}

const dialogKeys = (setDialog: (dialog: string) => void): Keys => ({
  d: () => setDialog('disturbance'),
  n: () => setDialog('note'),
  p: () => setDialog('photo'),
  g: () => setDialog('smell'),
  e: () => setDialog('end'),
  t: () => setDialog('temperature'),
  l: () => setDialog('leak'),
  '?': () => setDialog('keys'),
});
