import { fieldsAt, inPlanUnit, instrumentOf, type MeasurePhase } from '../course';
import { pointsOf } from '../judging';
import { fitDuct, impliedExponent, usualExponent } from '../physics';
import { fromSi, toSi, unitLabel } from '../quantities';
import { box, type Drawing, dot, line, type Mark, scale, ticks, words } from './drawing';
import type { Picture, Pictured } from './hold-pictures';

const height = 176;

/** The data of a phase that is over, as its limit left them. */
const dataOf = ({ state }: Pictured): Readonly<Record<string, string>> =>
  'came' in state && state.came.of === 'points' ? state.came.data : {};

const framed = (width: number, marks: readonly Mark[]): Drawing => ({ width, height, marks });

/** Figures between two ends of a logarithmic scale: 1, 2 and 5 of every power. */
const logTicks = (low: number, high: number): readonly number[] => {
  const found: number[] = [];
  for (let power = Math.floor(Math.log10(low)); power <= Math.ceil(Math.log10(high)); power += 1)
    for (const part of [1, 2, 5]) {
      const value = part * 10 ** power;
      if (value >= low && value <= high) found.push(Number(value.toPrecision(1)));
    }
  return found;
};

/** Flow against pressure, both logarithmic: the points, the line through them, what is permitted, and the rig's own band above it. */
export function flowPicture(phase: MeasurePhase, given: Pictured): Picture | undefined {
  const { plan, state, width } = given;
  const { limit } = phase;
  if (limit.kind !== 'flow-at-most') return undefined;
  const gauge = instrumentOf(plan, phase.fields.find(({ quantity }) => quantity === 'pressure')?.instrument);
  const fan = instrumentOf(plan, phase.fields.find(({ quantity }) => quantity === 'flow')?.instrument);
  const read = pointsOf(state).flatMap(({ values }) =>
    values.pressure === undefined || values.flow === undefined
      ? []
      : [
          {
            pa: toSi(Number(values.pressure), gauge.unit),
            flowM3s: toSi(Number(values.flow), fan.unit),
            text: `${values.flow} ${unitLabel(fan.unit)} at ${values.pressure} ${unitLabel(gauge.unit)}`,
          },
        ],
  );
  const [first] = read;
  if (first === undefined) return undefined;
  const reference = Number(limit.reference);
  const most = toSi(Number(limit.limit), limit.unit);
  const rig = toSi(Number(limit.baseline), limit.unit);
  const pressures = [reference, ...read.map(({ pa }) => pa)];
  const [from, to] = [Math.min(...pressures) / 1.5, Math.max(...pressures) * 1.5];
  const permitted = (pa: number, at: number) => at * (pa / reference) ** usualExponent;
  const flows = [permitted(from, most), permitted(to, most + rig), ...read.map(({ flowM3s }) => flowM3s)];
  const [left, bottom, ahead, top] = [52, height - 26, width - 8, 10];
  const x = (pa: number) => scale([Math.log(from), Math.log(to)], [left, ahead])(Math.log(pa));
  const [least, greatest] = [Math.min(...flows) / 1.3, Math.max(...flows) * 1.3];
  const y = (flow: number) => scale([Math.log(least), Math.log(greatest)], [bottom, top])(Math.log(flow));
  const steps = [toSi(Number(gauge.readability), gauge.unit), toSi(Number(fan.readability), fan.unit)] as const;
  const fitted = lineThrough(read, reference, steps);
  const along = (flow: (pa: number) => number) => [x(from), y(flow(from)), x(to), y(flow(to))];
  const unit = unitLabel(limit.unit);
  const shownFlows = logTicks(fromSi(least, limit.unit), fromSi(greatest, limit.unit));
  const shownPressures = logTicks(fromSi(from, gauge.unit), fromSi(to, gauge.unit));
  const marks: Mark[] = [
    ...shownFlows.flatMap((flow) => [
      line([left, y(toSi(flow, limit.unit)), ahead, y(toSi(flow, limit.unit))], 'faint', 0.5),
      words(left - 4, y(toSi(flow, limit.unit)) + 3, String(flow), { anchor: 'end', figures: true }),
    ]),
    ...shownPressures.flatMap((pressure) => [
      line([x(toSi(pressure, gauge.unit)), bottom, x(toSi(pressure, gauge.unit)), bottom + 3], 'quiet', 0.6),
      words(x(toSi(pressure, gauge.unit)), bottom + 12, String(pressure), { anchor: 'middle', figures: true }),
    ]),
    ...(rig > 0
      ? [
          {
            do: 'area' as const,
            points: [
              ...along((pa) => permitted(pa, most)),
              x(to),
              y(permitted(to, most + rig)),
              x(from),
              y(permitted(from, most + rig)),
            ].map((value) => Math.round(value * 100) / 100),
            tone: 'caution' as const,
            opacity: 0.2,
          },
        ]
      : []),
    line(
      along((pa) => permitted(pa, most)),
      'stop',
      1.1,
      true,
    ),
    ...(fitted === undefined ? [] : [line(along(fitted.flow), 'ink', 1.2)]),
    ...read.map(({ pa, flowM3s }) => dot(x(pa), y(flowM3s), 3, 'ink')),
    line([left, bottom, ahead, bottom], 'quiet', 0.8),
    words(left - 4, top, unit, { anchor: 'end' }),
    words(ahead, height - 3, unitLabel(gauge.unit), { anchor: 'end' }),
    words(ahead - 2, bottom - 6, `dashed: at most ${limit.limit} ${unit} at ${limit.reference} Pa`, {
      anchor: 'end',
      tone: 'stop',
      figures: true,
    }),
    ...(fitted === undefined ? [] : [words(left + 6, top + 8, fitted.words, { tone: 'ink', strong: true })]),
  ];
  return {
    drawing: framed(width, marks),
    says: `Flow against pressure: ${read.map(({ text }) => text).join('; ')}. At most ${limit.limit} ${unit} at ${limit.reference} Pa.`,
    caption: `${phase.title}: flow against pressure, both logarithmic.${rig > 0 ? ' Shaded: the rig’s own leakage, within which nothing is told.' : ''}`,
  };
}

interface Read {
  readonly pa: number;
  readonly flowM3s: number;
}

function lineThrough(
  read: readonly Read[],
  reference: number,
  [pressureStep, flowStep]: readonly [number, number],
): { readonly flow: (pa: number) => number; readonly words: string } | undefined {
  const sorted = [...read].sort((a, b) => a.pa - b.pa);
  const [low, high] = [sorted[0], sorted[sorted.length - 1]];
  if (low === high) return { flow: (pa) => low.flowM3s * (pa / low.pa) ** usualExponent, words: `one point, n = ${usualExponent} assumed` };
  const fit = read.length >= 3 ? fitDuct(read, reference, pressureStep, flowStep) : undefined;
  if (fit?.ok === true) return { flow: (pa) => fit.value.c * pa ** fit.value.n, words: `fitted, n = ${fit.value.n.toFixed(2)}` };
  const exponent = impliedExponent(high, low, pressureStep, flowStep);
  return exponent.ok
    ? { flow: (pa) => high.flowM3s * (pa / high.pa) ** exponent.value.n, words: `n = ${exponent.value.n.toFixed(2)}` }
    : undefined;
}

/** What was made up against what is allowed, as two columns of the same vessel. */
export function makeUpPicture(phase: MeasurePhase, given: Pictured): Picture | undefined {
  const data = dataOf(given);
  if (phase.limit.kind !== 'make-up-at-most' || data.made === undefined || data.allowed === undefined) return undefined;
  const { width } = given;
  const unit = phase.limit.unit;
  const vessel = instrumentOf(given.plan, phase.fields.find(({ quantity }) => quantity === 'volume')?.instrument);
  const made = fromSi(toSi(Number(data.made), vessel.unit), unit);
  const pumped = fromSi(toSi(Number(data.pumped), vessel.unit), unit);
  const allowed = Number(data.allowed);
  const [left, bottom, top] = [52, height - 30, 14];
  const y = scale([0, Math.max(made, allowed) * 1.15], [bottom, top]);
  const marks: Mark[] = [
    ...ticks(0, Math.max(made, allowed) * 1.15, 5).flatMap(({ value, text }) => [
      line([left, y(value), 330, y(value)], 'faint', 0.5),
      words(left - 4, y(value) + 3, text, { anchor: 'end', figures: true }),
    ]),
    words(left - 4, top - 4, unitLabel(unit), { anchor: 'end' }),
    box(left + 30, y(pumped), 90, bottom - y(pumped), 'quiet', 0.45),
    box(left + 30, y(made), 90, y(pumped) - y(made), 'good', 0.5),
    box(left + 160, y(allowed), 90, bottom - y(allowed), 'stop', 0.12),
    line([left, y(allowed), 330, y(allowed)], 'stop', 1.1, true),
    line([left, bottom, 330, bottom], 'quiet', 0.8),
    words(left + 75, bottom + 12, 'made up', { anchor: 'middle', tone: 'ink' }),
    words(left + 205, bottom + 12, 'allowed', { anchor: 'middle', tone: 'stop' }),
    words(350, 40, `Drawn ${data.drawn} ${data.madeUnit}`, { size: 9, tone: 'ink', figures: true }),
    words(350, 54, `Pumped back ${data.pumped} ${data.madeUnit}`, { size: 9, tone: 'ink', figures: true }),
    words(350, 68, `Mean ${data.mean} ${data.pressureUnit}`, { size: 9, tone: 'ink', figures: true }),
    words(350, 82, `over ${data.hours} h`, { size: 9, tone: 'ink', figures: true }),
  ];
  return {
    drawing: framed(width, marks),
    says: `Water made up ${data.made} ${data.madeUnit} beside the ${data.allowed} ${data.unit} that are allowed.`,
    caption: `${phase.title}: what was pumped back (grey) and drawn afterwards, beside what length, bore, pressure and time allow.`,
  };
}

/** A share of trapped air on a scale that ends at twice what is permitted. */
export function airPicture(phase: MeasurePhase, given: Pictured): Picture | undefined {
  const data = dataOf(given);
  if (phase.limit.kind !== 'air-at-most' || data.air === undefined || data.most === undefined) return undefined;
  const [air, most] = [Number(data.air), Number(data.most)];
  return barPicture(
    given.width,
    [
      { from: 0, to: most, name: 'in order', bad: false },
      { from: most, to: Math.max(2 * most, air * 1.2), name: 'bleed again', bad: true },
    ],
    [{ value: air, text: `${data.air} %` }],
    '%',
    `Trapped air ${data.air} %, at most ${data.most} %.`,
    `${phase.title}: air in the water by volume, at atmospheric pressure.`,
  );
}

/** A figure on its scale of named ranges. */
export function bandsPicture(phase: MeasurePhase, given: Pictured): Picture | undefined {
  const { limit } = phase;
  if (limit.kind !== 'in-bands') return undefined;
  const values = pointsOf(given.state).flatMap(({ id, values: read }) =>
    fieldsAt(phase, phase.points.find((point) => point.id === id) ?? phase.points[0]).flatMap(({ quantity, instrument }) => {
      const value = read[quantity];
      if (value === undefined) return [];
      const own = instrumentOf(given.plan, instrument).unit;
      return [
        {
          value: own === limit.unit ? Number(value) : inPlanUnit(given.plan, Number(value), { instrument, unit: limit.unit }),
          text: `${value} ${unitLabel(own)}`,
        },
      ];
    }),
  );
  if (values.length === 0) return undefined;
  const edges = limit.bands.steps.map(({ below }) => Number(below));
  const high = Math.max(...edges, ...values.map(({ value }) => value)) * 1.25;
  const ranges = [
    ...limit.bands.steps.map(({ outcome }, index) => ({ outcome, from: edges[index - 1] ?? 0, to: edges[index] })),
    { outcome: limit.bands.beyond, from: edges[edges.length - 1] ?? 0, to: high },
  ].map(({ outcome, from, to }) => ({ from, to, name: outcome.replaceAll('-', ' '), bad: limit.worst.includes(outcome) }));
  return barPicture(
    given.width,
    ranges,
    values,
    unitLabel(limit.unit),
    `${values.map(({ text }) => text).join(', ')} on its scale: ${ranges.map(({ name }) => name).join(', ')}.`,
    `${phase.title}: what was read, on the scale that it is judged by.`,
  );
}

function barPicture(
  width: number,
  ranges: readonly { readonly from: number; readonly to: number; readonly name: string; readonly bad: boolean }[],
  values: readonly { readonly value: number; readonly text: string }[],
  unit: string,
  says: string,
  caption: string,
): Picture {
  const own = 84;
  const high = ranges[ranges.length - 1].to;
  const x = scale([0, high], [8, width - 8]);
  const y = 48;
  const marks: Mark[] = [
    ...ranges.flatMap(({ from, to, name, bad }) => [
      box(x(from) + 0.5, y, x(to) - x(from) - 1, 18, bad ? 'caution' : 'good', bad ? 0.25 : 0.35),
      ...(x(to) - x(from) > name.length * 4.2 ? [words((x(from) + x(to)) / 2, y + 12, name, { anchor: 'middle', tone: 'ink' })] : []),
    ]),
    ...ranges.slice(0, -1).map(({ to }) => words(x(to), y + 29, String(to), { anchor: 'middle', figures: true })),
    words(width - 8, y + 29, unit, { anchor: 'end' }),
    ...values.flatMap(({ value, text }, index) => [
      line([x(value), y - 2, x(value), y + 20], 'ink', 1.6),
      words(Math.min(width - 60, Math.max(40, x(value))), y - 8 - (index % 2) * 12, text, {
        size: 10,
        tone: 'ink',
        anchor: 'middle',
        strong: true,
        figures: true,
      }),
    ]),
  ];
  return { drawing: { width, height: own, marks }, says, caption };
}
