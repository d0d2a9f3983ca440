'use client';

import { useMemo } from 'react';
import { sightWords, unitOfHold } from '@/core/course';
import { heldSoFar, warmthOf } from '@/core/judging';
import type { PlantTrack } from '@/core/plants';
import { unitLabel } from '@/core/quantities';
import { fallSoFar } from '@/core/running';
import { useNow } from '@/device/use-now';
import type { OpenRun } from '@/device/use-run';
import { useSize } from '@/ui/use-size';
import { CoursePicture } from './pictures/course-picture';
import { estimateWords, type Now, soFarWords } from './run-model';
import { useEstimate } from './use-estimate';
import { useLiveTrace } from './use-live-trace';

/** The course with its live trace, and below it in words what the judge thinks so far. Drawn ten times a second by itself. */
export function LiveCourse({
  open: { run, events, judgement },
  present: { phase, state, view, holding, settlingUntil },
  gauge,
  typing,
}: {
  readonly open: OpenRun;
  readonly present: Now;
  readonly gauge: PlantTrack | undefined;
  /** The keypad has the place on a small screen. */
  readonly typing: boolean;
}) {
  const { plan } = run;
  const [frame, size] = useSize();
  const time = useNow(250);
  const traced = useLiveTrace(plan, judgement, events, gauge);
  const points = traced.find((one) => one.phase === phase?.id)?.points ?? [];
  const warmth = useMemo(() => warmthOf(judgement, events, phase?.id ?? ''), [judgement, events, phase?.id]);
  const estimate = useEstimate(plan, holding ? phase?.id : undefined, points, warmth);
  const timed = holding || settlingUntil !== undefined;
  const held = heldSoFar(state);
  const isList = phase?.kind === 'check' && phase.picture === undefined;
  const narrow = size.width < 600;
  // What this hold clears, in its two figures.
  const part = plan.sight.find((one) => phase !== undefined && (one.phase === phase.id || one.orBy?.includes(phase.id)));
  const sees = part === undefined ? undefined : sightWords(part);
  // What is over its limit is said beside the countdown, with what can be done.
  const isOver = phase !== undefined && fallSoFar(plan, judgement, events, phase) !== undefined;
  const unit = unitLabel(phase?.kind === 'hold' ? unitOfHold(plan, phase) : plan.unit);
  return (
    <>
      <div
        ref={frame}
        className={`min-h-40 w-full flex-1 px-1 pt-2 ${phase?.kind === 'hold' || phase?.kind === 'measure' ? '@max-5xl:h-[28dvh] @max-5xl:flex-none' : ''} ${typing ? '@max-5xl:hidden' : ''} ${isList || phase === undefined ? '@max-5xl:max-h-32 @max-5xl:min-h-32' : ''}`}
      >
        <CoursePicture
          plan={plan}
          judgement={view}
          events={events}
          traced={traced}
          {...(estimate === undefined ? {} : { estimate })}
          {...(timed && held !== undefined ? { nowSeconds: Math.max(0, (time - held.startAt) / 1000) } : {})}
          width={Math.max(300, size.width)}
          height={(isList || phase === undefined) && narrow ? 128 : Math.max(160, Math.min(640, size.height))}
          narrow={narrow}
        />
      </div>
      <p className="min-h-6 px-4 text-sm" data-testid="judge-so-far">
        {isOver
          ? ''
          : estimate === undefined
            ? holding
              ? soFarWords(plan, phase, held?.start, points)
              : ''
            : estimateWords(estimate, unit, phase)}
      </p>
      <p className="min-h-5 px-4 pb-2 text-sm text-quiet first-letter:uppercase" data-testid="can-see">
        {sees !== undefined && `${sees.sure}${sees.alone === undefined ? '' : `; ${sees.alone}`}.`}
      </p>
    </>
  );
}
