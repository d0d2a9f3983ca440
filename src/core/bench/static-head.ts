import { levelLoss, openingArea, staticHead } from '../physics/static-head';
import { askChoice, askQuantity } from '../procedures/questions';
import { fromSi, good, type Result } from '../quantities';
import { type Calculation, curve, type Inputs, type Outcome, orUndefined, show } from './calculation';

function head({ si }: Inputs): Result<Outcome> {
  const heightM = si('height');
  const pressure = staticHead(heightM);
  if (!pressure.ok) return pressure;
  const reach = Math.max(1, Math.abs(heightM)) * 1.5;
  return good({
    found: [{ label: 'Pressure of the water above', si: pressure.value, quantity: 'pressure', unit: 'bar', main: true }],
    said: [
      {
        tone: 'plain',
        text: 'The lowest point sees this much more than a gauge at the top, the highest this much less than one at the bottom.',
      },
    ],
    working: [`p = ρ × g × h = 998.2 kg/m³ × 9.80665 m/s² × ${show(heightM, 'm')} = ${show(pressure.value, 'bar')}`],
    chart: {
      x: { label: 'Height of water, m', scale: 'linear' },
      y: { label: 'Pressure, bar', scale: 'linear' },
      lines: [
        {
          label: 'Pressure',
          points: curve(0, reach, 'linear', (metres) => {
            const other = orUndefined(staticHead(metres));
            return other === undefined ? undefined : fromSi(other, 'bar');
          }),
        },
      ],
      mark: heightM >= 0 ? { x: heightM, y: fromSi(pressure.value, 'bar'), label: show(pressure.value, 'bar', 3) } : undefined,
    },
  });
}

function level({ si, text }: Inputs): Result<Outcome> {
  const one = openingArea(si('bore'));
  if (!one.ok) return one;
  const openings = Math.max(1, Math.round(Number(text('openings')) || 1));
  const area = one.value * openings;
  const [fallM, seconds, step] = [si('fall'), si('time'), si('step')];
  const loss = levelLoss(area, fallM, seconds);
  if (!loss.ok) return loss;
  const seen = levelLoss(area, step, seconds);
  if (!seen.ok) return seen;
  const minutes = seconds / 60;
  return good({
    found: [
      { label: 'Loss', si: loss.value, quantity: 'flow', unit: 'L/h', main: true },
      { label: 'Smallest that would show', si: seen.value, quantity: 'flow', unit: 'L/h' },
    ],
    said: [{ tone: 'caution', text: 'A branch with a larger free surface hides the fall: count every place where water stands open.' }],
    working: [
      `q = area × fall / time = ${openings} × ${(one.value * 1e4).toFixed(1)} cm² × ${show(fallM, 'mm')} / ${show(seconds, 'min')} = ${show(loss.value, 'L/h')}`,
    ],
    chart: {
      x: { label: 'Watched for, min', scale: 'log' },
      y: { label: 'Smallest loss that shows, L/h', scale: 'log' },
      lines: [
        {
          label: 'One step of the rule',
          points: curve(minutes / 10, minutes * 10, 'log', (time) => {
            const other = orUndefined(levelLoss(area, step, time * 60));
            return other === undefined ? undefined : fromSi(other, 'L/h');
          }),
        },
      ],
      mark: { x: minutes, y: fromSi(seen.value, 'L/h'), label: show(seen.value, 'L/h', 3) },
    },
  });
}

export const staticHeadCalculation: Calculation = {
  id: 'static-head',
  title: 'Static head and drain level',
  about: 'The pressure of standing water, and what a falling level in a riser loses.',
  parameters: [
    askChoice('of', 'Question', [
      ['head', 'Pressure of a height of water'],
      ['level', 'Loss from a standing level'],
    ]),
    askQuantity('height', 'Height of water', 'length', 'm', '1', ['0', '1000'], '', { askedFor: { answer: 'of', is: ['head'] } }),
    askQuantity('bore', 'Bore of the riser', 'length', 'mm', '100', ['1', '5000'], '', { askedFor: { answer: 'of', is: ['level'] } }),
    {
      kind: 'choice',
      id: 'openings',
      label: 'Open risers like it',
      help: 'Their areas add.',
      usual: '1',
      askedFor: { answer: 'of', is: ['level'] },
      options: ['1', '2', '3', '4', '5', '6'].map((value) => ({ value, label: value })),
    },
    askQuantity('fall', 'Fall of the level', 'length', 'mm', '3', ['0', '5000'], '', { askedFor: { answer: 'of', is: ['level'] } }),
    askQuantity('time', 'In', 'time', 'min', '20', ['0.1', '10000'], '', { askedFor: { answer: 'of', is: ['level'] } }),
    askQuantity('step', 'Read to', 'length', 'mm', '1', ['0.1', '100'], '', { askedFor: { answer: 'of', is: ['level'] } }),
  ],
  validity: ['Water at 20 °C.', 'A level tells only of what lies below it.'],
  compute: (inputs) => (inputs.text('of') === 'level' ? level(inputs) : head(inputs)),
};
