import { extent, max } from 'd3-array';
import { useId, useMemo } from 'react';
import { closeUp, type HoldPhase, type Phase, sceneOf, unitOfHold } from '@/core/course';
import { drawn, type Estimate, expectedCourse, heldSoFar, type Judgement, type Point, type RunEvent, type Traced } from '@/core/judging';
import type { Plan } from '@/core/planning';
import { isPressureUnit, type Unit, unitLabel } from '@/core/quantities';
import { Axis } from './axis';
import { BlockShape, layOut } from './blocks';
import { HoldTrace } from './hold-trace';
import { LevelRiser } from './level-riser';
import { focusOf, onAxis, startOf } from './scene';
import { Scenery } from './scenery';

const left = 44;
const foot = 46;

/**
 * The course: phases left to right as blocks, and above them what is watched: the pressure on the same axis with each
 * phase's corridor, the floor that the gauge must not reach, the forecast fan and a plumb line at now; or the picture of the
 * phase's own kind, in the same frame.
 */
export function CoursePicture({
  plan,
  judgement,
  events,
  traced,
  estimate,
  nowSeconds,
  width,
  height,
  narrow,
}: {
  readonly plan: Plan;
  readonly judgement: Judgement;
  readonly events: readonly RunEvent[];
  readonly traced: readonly Traced[];
  readonly estimate?: Estimate;
  /** Seconds into the open hold, if one runs. */
  readonly nowSeconds?: number;
  readonly width: number;
  readonly height: number;
  readonly narrow: boolean;
}) {
  const phases = useMemo(() => expectedCourse(plan, judgement), [plan, judgement]);
  const focus = focusOf(plan, judgement);
  const scene = sceneOf(plan, focus);
  const clip = useId();
  const share = focus?.kind === 'hold' || focus?.kind === 'measure' ? (narrow ? 0.62 : 0.5) : narrow ? 0.4 : 0.22;
  const blocks = layOut(phases, judgement.current, width - left - 6, share).map((block) => ({ ...block, x: block.x + left }));
  const box = { x: left, y: 8, width: width - left - 6, height: height - foot - 8 };
  return (
    <svg width={width} height={height} role="img" aria-label={courseInWords(plan, judgement)} className="block select-none">
      {blocks.map(({ phase, x, width: own }) => (
        <BlockShape
          key={phase.id}
          phase={phase}
          x={x}
          width={own}
          top={height - foot + 4}
          state={judgement.phases.find(({ id }) => id === phase.id)?.state ?? 'waiting'}
        />
      ))}
      <clipPath id={clip}>
        <rect x={0} y={0} width={width} height={height - foot} />
      </clipPath>
      <g clipPath={`url(#${clip})`}>
        {scene === 'trace' || scene === 'level' ? (
          <Traces
            plan={plan}
            judgement={judgement}
            focus={focus}
            alone={scene === 'level'}
            blocks={blocks}
            traced={traced}
            estimate={estimate}
            nowSeconds={nowSeconds}
            box={box}
          />
        ) : null}
        {scene !== 'trace' && focus !== undefined && (
          <Scenery scene={scene} plan={plan} phase={focus} judgement={judgement} events={events} box={box} traced={traced} />
        )}
      </g>
    </svg>
  );
}

/** A close-up that leaves out nothing of the hold's own trace. */
function withAll(near: readonly [number, number] | undefined, points: readonly Point[]): readonly [number, number] | undefined {
  if (near === undefined) return undefined;
  const [low = near[0], high = near[1]] = extent(points, ({ value }) => value);
  return [Math.min(near[0], low), Math.max(near[1], high)];
}

/** Every hold whose figure the axis can show, each over its own block. */
function Traces({
  plan,
  judgement,
  focus,
  alone,
  blocks,
  traced: whole,
  estimate,
  nowSeconds,
  box,
}: {
  readonly plan: Plan;
  readonly judgement: Judgement;
  readonly focus: Phase | undefined;
  /** Only the hold in focus is drawn; what stands beside it has its own picture. */
  readonly alone: boolean;
  readonly blocks: readonly { readonly phase: Phase; readonly x: number; readonly width: number }[];
  readonly traced: readonly Traced[];
  readonly estimate: Estimate | undefined;
  readonly nowSeconds: number | undefined;
  readonly box: { readonly x: number; readonly y: number; readonly width: number; readonly height: number };
}) {
  // As many as the picture has room for, with every dip: measuring axes by them gives what all would.
  const traced = whole.map(({ phase, points }) => ({ phase, points: drawn(points, Math.max(20, Math.round(box.width / 2))) }));
  const unit: Unit = focus?.kind === 'hold' ? unitOfHold(plan, focus) : plan.unit;
  const holds = blocks.filter((block): block is typeof block & { readonly phase: HoldPhase } => block.phase.kind === 'hold');
  const near =
    focus?.kind === 'hold' && (judgement.current === focus.id || judgement.current === undefined)
      ? withAll(closeUp(focus, startOf(plan, judgement, focus), unit), traced.find(({ phase }) => phase === focus.id)?.points ?? [])
      : undefined;
  const shownPoints = traced.flatMap(({ phase: id, points }) => {
    const hold = plan.phases.find((one): one is HoldPhase => one.kind === 'hold' && one.id === id);
    const highest = max(points, ({ value }) => value);
    const on = hold === undefined || highest === undefined ? undefined : onAxis(plan, hold, highest, unit);
    return on === undefined ? [] : [on];
  });
  const reach = holds.flatMap(({ phase }) => onAxis(plan, phase, Number(phase.band.high), unit) ?? []);
  const top = isPressureUnit(unit)
    ? Math.max(0, ...shownPoints, ...(focus?.kind === 'hold' && unit !== plan.unit ? reach : [Number(plan.highest)]))
    : Math.max(1, ...shownPoints);
  const [lowest, highest] = near ?? [0, top * 1.12];
  const y = (value: number) => box.y + box.height - ((value - lowest) / (highest - lowest)) * box.height;
  return (
    <>
      <Axis lowest={lowest} highest={highest} y={y} box={box} unit={unitLabel(unit)} />
      {near !== undefined && !alone && box.width > 420 && (
        <text x={box.x + 6} y={box.y + box.height - 8} className="halo fill-quiet text-[11px]">
          close-up of {judgement.current === undefined ? focus?.title : 'the open hold'}
        </text>
      )}
      {holds.map(({ phase, x, width }) => {
        if (onAxis(plan, phase, 0, unit) === undefined || (alone && phase.id !== focus?.id)) return null;
        const start = startOf(plan, judgement, phase);
        const convert = (value: number) => onAxis(plan, phase, value, unit) ?? value;
        const open = phase.id === judgement.current;
        return (
          <HoldTrace
            key={phase.id}
            phase={phase}
            x={x}
            width={width}
            y={(value) => y(convert(value))}
            unit={unitOfHold(plan, phase)}
            start={start}
            points={traced.find((one) => one.phase === phase.id)?.points ?? []}
            estimate={open ? estimate : undefined}
            nowSeconds={open ? nowSeconds : undefined}
            bottom={box.y + box.height}
          />
        );
      })}
      {alone && focus?.kind === 'hold' && (
        <LevelRiser
          plan={plan}
          phase={focus}
          judgement={judgement}
          traced={whole}
          box={box}
          y={(value) => y(onAxis(plan, focus, value, unit) ?? value)}
        />
      )}
    </>
  );
}

function courseInWords(plan: Plan, judgement: Judgement): string {
  const phase = plan.phases.find(({ id }) => id === judgement.current);
  const start = heldSoFar(judgement.phases.find(({ id }) => id === judgement.current))?.start;
  return `The course of the test. ${phase === undefined ? 'All phases are done.' : `Open now: ${phase.title}${start === undefined ? '' : `, started at ${start}`}.`}`;
}
