import { type DuctPoint, fitDuct, flowAt, impliedExponent, nearestPoint, normalExponents, usualExponent } from '../physics/duct-flow';
import { askQuantity } from '../procedures/questions';
import { bad, fromSi, good, parseQuantity, type Result, toNumber, toSi } from '../quantities';
import { type Calculation, curve, type Inputs, type Outcome, show } from './calculation';

/** Points a line each, pressure then flow: `25 17.0`, `50 Pa 26,1 CFM`. */
function readPoints(text: string): Result<readonly DuctPoint[]> {
  const points: DuctPoint[] = [];
  for (const [index, line] of text.split('\n').entries()) {
    if (line.trim() === '') continue;
    const at = (message: string) => bad('duct-point', `Line ${index + 1}: ${message}`, 'points');
    const match = /^(\S+?)\s*(Pa|inH2O|inH₂O)?\s*[;\s]\s*(\S+?)\s*(CFM|cfm|L\/s|m3\/h|m³\/h)?$/.exec(line.trim());
    if (match === null) return at(`“${line.trim()}” is no point. Type pressure and flow, like 25 17.0, in Pa and CFM.`);
    const [, pressureText, pressureUnit = 'Pa', flowText, flowUnit = 'CFM'] = match;
    const pressure = parseQuantity(`${pressureText} ${pressureUnit}`, 'pressure', 'Pa');
    const flow = parseQuantity(`${flowText} ${flowUnit}`, 'flow', 'CFM');
    if (!pressure.ok) return at(pressure.problem.message);
    if (!flow.ok) return at(flow.problem.message);
    const point = {
      pa: toSi(toNumber(pressure.value.value), pressure.value.unit),
      flowM3s: toSi(toNumber(flow.value.value), flow.value.unit),
    };
    if (!(point.pa >= 0.1 && point.pa <= 10_000 && point.flowM3s >= 1e-7 && point.flowM3s <= 100))
      return at('a pressure lies between 0.1 and 10 000 Pa, and a flow above zero. No flow shown is below the ring’s range, not nothing.');
    points.push(point);
  }
  return points.length === 0 ? bad('duct-point', 'Type at least one point: pressure and flow, like 25 17.0.', 'points') : good(points);
}

function compute(inputs: Inputs): Result<Outcome> {
  const read = readPoints(inputs.text('points'));
  if (!read.ok) return read;
  const points = read.value;
  const [referencePa, pressureStep, flowStep] = [inputs.si('reference'), inputs.si('pressure-step'), inputs.si('flow-step')];
  const limit = inputs.optional('limit');
  const sorted = [...points].sort((a, b) => a.pa - b.pa);
  const [lowest, highest] = [sorted[0], sorted[sorted.length - 1]];
  const implied = points.length > 1 ? impliedExponent(highest, lowest, pressureStep, flowStep) : undefined;
  const fit = points.length > 2 ? fitDuct(points, referencePa, pressureStep, flowStep) : undefined;
  if (fit?.ok === false) return fit;
  const nearest = nearestPoint(points, referencePa) ?? points[0];
  const single = flowAt(nearest, referencePa);
  if (!single.ok) return single;
  const flow = fit?.value.flowM3s ?? single.value;
  const worst = fit?.value.high ?? flow;
  const n = fit?.value.n ?? (implied?.ok === true ? implied.value.n : usualExponent);
  const [from, to] = [Math.min(lowest.pa, referencePa) / 1.6, Math.max(highest.pa, referencePa) * 1.6];
  const line = (pa: number): number => fromSi(flow * (pa / referencePa) ** n, 'CFM');
  return good({
    found: [
      { label: `Leakage at ${show(referencePa, 'Pa', 3)}`, si: flow, quantity: 'flow', unit: 'CFM', main: true },
      ...(fit === undefined
        ? []
        : [
            { label: '95 % from', si: fit.value.low, quantity: 'flow' as const, unit: 'CFM' as const },
            { label: 'to', si: fit.value.high, quantity: 'flow' as const, unit: 'CFM' as const },
            { label: 'r²', si: fit.value.r2, quantity: 'number' as const, unit: '' as const },
          ]),
      ...(points.length > 1
        ? [{ label: 'Exponent n', si: n, quantity: 'number' as const, unit: '' as const, note: `usual ${normalExponents.join(' to ')}` }]
        : []),
    ],
    said: [
      ...(implied?.ok === true
        ? implied.value.verdict === 'impossible'
          ? [
              {
                tone: 'stop' as const,
                text: `n between ${implied.value.low.toFixed(2)} and ${implied.value.high.toFixed(2)} is physically impossible: the set-up is wrong.`,
              },
            ]
          : implied.value.verdict === 'suspicious'
            ? [{ tone: 'caution' as const, text: 'An unusual exponent: check hoses, ring and taped registers.' }]
            : []
        : implied === undefined
          ? [{ tone: 'plain' as const, text: 'One point proves no set-up: read a second at half the pressure.' }]
          : [{ tone: 'caution' as const, text: implied.problem.message }]),
      ...(limit === undefined
        ? []
        : worst <= limit * (1 + 1e-12)
          ? [{ tone: 'plain' as const, text: `Within the limit of ${show(limit, 'CFM')}.` }]
          : [
              {
                tone: 'stop' as const,
                text: `Over the limit of ${show(limit, 'CFM')}${fit === undefined ? '' : ' at the worse end of its interval'}.`,
              },
            ]),
    ],
    working: [
      ...(fit === undefined
        ? [
            `Q = ${show(nearest.flowM3s, 'CFM')} × (${show(referencePa, 'Pa')} / ${show(nearest.pa, 'Pa')})^${usualExponent} = ${show(flow, 'CFM')}`,
          ]
        : [
            `Least squares on log Q against log Δp, ${points.length} points: n = ${n.toFixed(3)}`,
            `Q at ${show(referencePa, 'Pa')} = ${show(flow, 'CFM')}`,
          ]),
      ...(implied?.ok === true
        ? [
            `n = ln(Q₁/Q₂) / ln(p₁/p₂) = ${implied.value.n.toFixed(3)}, from the steps ${implied.value.low.toFixed(3)} to ${implied.value.high.toFixed(3)}`,
          ]
        : []),
    ],
    chart: {
      x: { label: 'Duct pressure, Pa', scale: 'log' },
      y: { label: 'Flow, CFM', scale: 'log' },
      lines: [{ label: fit === undefined ? `Through it with n = ${n.toFixed(2)}` : 'Fit', points: curve(from, to, 'log', line) }],
      band: fit === undefined ? undefined : bandOf(points, from, to, pressureStep, flowStep),
      dots: points.map(({ pa, flowM3s }) => [pa, fromSi(flowM3s, 'CFM')] as const),
      mark: { x: referencePa, y: fromSi(flow, 'CFM'), label: show(flow, 'CFM', 3) },
      level: limit === undefined ? undefined : { y: fromSi(limit, 'CFM'), label: 'Limit at the reference' },
    },
  });
}

/** The fit's interval along the curve, at thirty pressures. */
function bandOf(
  points: readonly DuctPoint[],
  from: number,
  to: number,
  pressureStep: number,
  flowStep: number,
): readonly (readonly [number, number, number])[] {
  const band: (readonly [number, number, number])[] = [];
  for (let index = 0; index <= 30; index += 1) {
    const pa = from * (to / from) ** (index / 30);
    const fit = fitDuct(points, pa, pressureStep, flowStep);
    if (fit.ok) band.push([pa, fromSi(fit.value.low, 'CFM'), fromSi(fit.value.high, 'CFM')]);
  }
  return band;
}

export const ductPoints: Calculation = {
  id: 'duct-points',
  title: 'Duct leakage points',
  about: 'Leakage at the reference pressure from one point or several, with how sure it is.',
  parameters: [
    {
      kind: 'lines',
      id: 'points',
      label: 'Points',
      help: 'A line each: pressure and flow, in Pa and CFM. 25 17.0',
      usual: '50.0 26.0\n35.0 21.0\n25.0 17.0\n12.5 11.2',
      example: '25 17.0',
    },
    askQuantity('reference', 'Reference pressure', 'pressure', 'Pa', '25', ['1', '2500']),
    askQuantity('limit', 'Limit at the reference', 'flow', 'CFM', '', ['0.1', '100000'], '', { optional: true }),
    askQuantity('pressure-step', 'Gauge reads to', 'pressure', 'Pa', '0.1', ['0', '10']),
    askQuantity('flow-step', 'Flow reads to', 'flow', 'CFM', '0.1', ['0', '100']),
  ],
  validity: [
    'All ducts at one pressure; not what each loses at its own.',
    `One point is brought to the reference with n = ${usualExponent}; three and more are fitted.`,
    'The interval counts scatter and the steps of both readings, not the fan’s own calibration.',
  ],
  compute,
};
