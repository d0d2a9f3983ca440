'use client';

import { useState } from 'react';
import type { Chart as ChartData } from '@/core/bench';
import type { Part } from '@/core/course';
import type { Plan } from '@/core/planning';
import { unitLabel } from '@/core/quantities';
import { type Detection, noCurve, sizeText } from '@/core/simulation';
import { Button } from '@/ui/button';
import { Chart } from '@/ui/chart';
import { Choice } from '@/ui/choice';
import { type Detecting, useDetection } from './use-detection';

/** Another plan whose curve may be laid over. */
export interface Other {
  readonly label: string;
  readonly plan: Plan;
}

/** The chance that a plan passes a leak, by its size, worked out when asked; and another plan's over it. */
export function DetectionCurve({
  plan,
  part = plan.sight[0],
  label = 'This plan',
  others = [],
}: {
  readonly plan: Plan;
  /** The part of the plan whose leak it is, one of its own. */
  readonly part?: Part | undefined;
  readonly label?: string;
  readonly others?: readonly Other[];
}) {
  const [chosen, setChosen] = useState('');
  const other = others.find((one) => one.label === chosen);
  const own = useDetection(plan, part);
  const beside = useDetection(other?.plan, other === undefined ? undefined : (partLike(other.plan, part) ?? other.plan.sight[0]));
  const why = noCurve(plan, part);
  if (why !== undefined || part === undefined) return <p className="text-sm text-quiet">{why}</p>;
  return (
    <div className="space-y-2" data-testid="detection">
      <Ask curve={own} what="Work out the chance of a pass, by the size of the leak" />
      {own.found !== undefined && (
        <>
          <Chart
            chart={chartOf(
              own.found,
              label,
              other === undefined || beside.found === undefined ? undefined : { label: other.label, found: beside.found },
            )}
            caption={`Chance that a leak in ${part.what} passes`}
          />
          <InWords found={own.found} label={other === undefined ? undefined : label} />
          {others.length > 0 && (
            <div className="text-sm">
              <span id="lay-over">Lay over it</span>
              <Choice
                className="mt-0.5 text-base"
                labelledBy="lay-over"
                value={chosen}
                change={setChosen}
                options={[{ value: '', label: 'nothing' }, ...others.map((one) => ({ value: one.label, label: one.label }))]}
              />
            </div>
          )}
          {other !== undefined && <Ask curve={beside} what={`Work it out: ${other.label}`} />}
          {other !== undefined && beside.found !== undefined && <InWords found={beside.found} label={other.label} />}
        </>
      )}
    </div>
  );
}

const partLike = (plan: Plan, part: Part | undefined): Part | undefined => plan.sight.find(({ what }) => what === part?.what);

function Ask({ curve: { found, progress, trouble, start, cancel }, what }: { readonly curve: Detecting; readonly what: string }) {
  if (found !== undefined) return null;
  return (
    <div className="flex flex-wrap items-center gap-3">
      {progress === undefined ? (
        <Button tone="quiet" className="!min-h-10" onClick={start}>
          {what}
        </Button>
      ) : (
        <>
          <progress className="h-3 w-48" value={progress} max={1} aria-label="Simulated tests done" />
          <span className="figures text-sm">{Math.round(progress * 100)} %</span>
          <Button tone="quiet" className="!min-h-10" onClick={cancel}>
            Stop
          </Button>
        </>
      )}
      {trouble !== undefined && (
        <p role="alert" className="font-medium text-stop">
          {trouble}
        </p>
      )}
    </div>
  );
}

/** What the curve says, in a sentence; simulated, and said so. */
function InWords({ found, label }: { readonly found: Detection; readonly label?: string | undefined }) {
  const { halfCaught, surelyCaught, unit, sound, sizes } = found;
  const rate = (size: number) => `${sizeText(size)} ${unitLabel(unit)}`;
  const share = (count: number) => `${Math.round((100 * count) / sound.runs)} in 100`;
  return (
    <p className="text-sm">
      {label !== undefined && <b>{label}. </b>}
      {halfCaught !== undefined && `Caught 50 times in 100 from ${rate(halfCaught)}. `}
      {surelyCaught === undefined ? 'No size tried is caught 95 times in 100. ' : `Caught 95 times in 100 from ${rate(surelyCaught)}. `}
      Of sound systems {share(sound.failed)} would be failed{sound.open > 0 && `, and ${share(sound.open)} come to nothing`}.{' '}
      <span className="text-quiet">
        Simulated: {sizes[0]?.runs ?? sound.runs} tests of each size, typed by hand; one steady drift all through each, let-by and air
        anywhere within what “sure” takes for granted.
      </span>
    </p>
  );
}

function chartOf(found: Detection, label: string, over: { readonly label: string; readonly found: Detection } | undefined): ChartData {
  const line = ({ sizes }: Detection) => sizes.map(({ leak, passed, runs }): readonly [number, number] => [leak, (100 * passed) / runs]);
  const { surelyCaught, sure, unit } = found;
  return {
    x: { label: `Leak, ${unitLabel(unit)}`, scale: 'log' },
    y: { label: 'Passes, of 100', scale: 'linear', ends: [0, 100] },
    lines: [{ label, points: line(found) }, ...(over === undefined ? [] : [{ label: over.label, points: line(over.found), dashed: true }])],
    plumbs: [
      ...(sure === undefined ? [] : [{ x: sure, label: 'sure' }]),
      ...(surelyCaught === undefined ? [] : [{ x: surelyCaught, label: '95 caught' }]),
    ],
  };
}
