import { instrumentOf, type MeasurePhase } from '@/core/course';
import { type EventOf, heldSoFar, pointsOf } from '@/core/judging';
import { makeUpPoints } from '@/core/limits';
import { mainAllowance, meanPressure } from '@/core/physics';
import { fromSi, toSi, unitLabel } from '@/core/quantities';
import { phaseReadings } from '../run-model';
import { stateOf } from './scene';
import type { SceneProps } from './scenery';

/** The measuring vessel: what was pumped back and drawn, against what length, bore, pressure and time allow. */
export function MakeUpPicture({ plan, phase, judgement, events, box }: SceneProps<MeasurePhase>) {
  const { limit: criterion } = phase;
  if (criterion.kind !== 'make-up-at-most') return null;
  const hold = stateOf(judgement, criterion.hold);
  const vessel = instrumentOf(plan, phase.fields.find(({ quantity }) => quantity === 'volume')?.instrument);
  const during = phaseReadings(events, judgement.withdrawn, criterion.hold, hold?.round ?? 1);
  const litres = (list: readonly EventOf<'reading'>[]) => list.reduce((sum, { value, unit }) => sum + toSi(Number(value), unit), 0);
  const pumped = litres(during.filter(({ quantity }) => quantity === 'volume'));
  const pressures = during.filter(({ quantity }) => quantity === 'pressure').map(({ value, unit }) => toSi(Number(value), unit));
  const drawnText = pointsOf(stateOf(judgement, phase.id)).find(({ id }) => id === makeUpPoints.drawn)?.values.volume;
  const drawn = drawnText === undefined ? 0 : toSi(Number(drawnText), vessel.unit);
  const begun = heldSoFar(hold)?.start;
  const start = begun === undefined ? undefined : toSi(Number(begun), plan.gauge.unit);
  const mean =
    start === undefined || pressures.length === 0 ? toSi(Number(plan.highest), plan.unit) : meanPressure(start, Math.min(...pressures));
  const rate = mainAllowance({
    material: criterion.material,
    lengthM: toSi(Number(criterion.length), criterion.lengthUnit),
    diameterM: toSi(Number(criterion.diameter), criterion.diameterUnit),
    meanPa: mean,
  });
  if (!rate.ok) return null;
  const allowed = rate.value * criterion.seconds;
  const most = Math.max(allowed, pumped + drawn) * 1.25;
  const width = Math.min(180, box.width * 0.32);
  const x = box.x + 16;
  const bottom = box.y + box.height - 8;
  const tall = box.height - 26;
  const y = (volume: number) => bottom - (volume / most) * tall;
  const shown = (volume: number) => `${fromSi(volume, criterion.unit).toFixed(2)} ${unitLabel(criterion.unit)}`;
  const beside = x + width + 14;
  // Where there is little room the words stand in lines of their own, and what is allowed under them.
  const narrow = box.width < 460;
  const pressure = `mean pressure ${fromSi(mean, plan.unit).toFixed(0)} ${unitLabel(plan.unit)}`;
  const lines = narrow ? ['made up so far', pressure] : [`made up so far, ${pressure}`];
  const allowedAt = Math.max(y(allowed) + 4, box.y + 46 + lines.length * 16);
  return (
    <g>
      <rect x={x} y={y(pumped)} width={width} height={bottom - y(pumped)} fill="var(--quiet)" opacity="0.35" />
      <rect x={x} y={y(pumped + drawn)} width={width} height={y(pumped) - y(pumped + drawn)} fill="var(--action)" opacity="0.4" />
      <path d={`M${x} ${box.y + 10}V${bottom}h${width}V${box.y + 10}`} fill="none" stroke="var(--ink)" strokeWidth="3" />
      <path d={`M${x - 8} ${y(allowed)}h${width + 16}`} stroke="var(--stop)" strokeWidth="2" strokeDasharray="5 3" />
      <text x={beside} y={allowedAt} className="figures fill-stop text-[13px]">
        allowed {shown(allowed)}
      </text>
      {pumped > 0 && (
        <text
          x={narrow ? beside : x + 8}
          y={Math.max(narrow ? allowedAt + 18 : 0, Math.min(bottom - 6, y(pumped) + 16))}
          className="figures fill-ink text-[12px]"
        >
          pumped back {shown(pumped)}
        </text>
      )}
      <text x={beside} y={box.y + 24} className="figures fill-ink text-[22px] font-semibold">
        {drawnText === undefined && pumped === 0 ? '–' : shown(pumped + drawn)}
      </text>
      {lines.map((line, index) => (
        <text key={line} x={beside} y={box.y + 42 + index * 16} className="fill-quiet text-[12px]">
          {line}
        </text>
      ))}
    </g>
  );
}
