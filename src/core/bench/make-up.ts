import { type MainMaterial, mainAllowance, mainMaterials, meanPressure } from '../physics/main-allowance';
import { askQuantity } from '../procedures/questions';
import { fromSi, good, type Result, toSi } from '../quantities';
import { type Calculation, curve, type Inputs, type Outcome, orUndefined, show } from './calculation';

function compute({ si, optional, text }: Inputs): Result<Outcome> {
  const [lengthM, diameterM, startPa, lowPa, seconds] = [si('length'), si('diameter'), si('start'), si('low'), si('time')];
  const material = text('material') as MainMaterial | 'PE';
  const at = (meanPa: number) => mainAllowance({ material, lengthM, diameterM, meanPa });
  const meanPa = meanPressure(startPa, lowPa);
  const rate = at(meanPa);
  if (!rate.ok) return rate;
  const allowed = rate.value * seconds;
  const made = optional('made');
  const highest = Math.max(startPa, lowPa, toSi(20, 'psi')) * 1.25;
  return good({
    found: [
      { label: 'Allowed make-up', si: allowed, quantity: 'volume', unit: 'galUS', main: true },
      { label: 'Allowed rate', si: rate.value, quantity: 'flow', unit: 'galUS/h' },
      { label: 'Mean pressure', si: meanPa, quantity: 'pressure', unit: 'psi', note: 'gauge' },
    ],
    said: [
      ...(lowPa > startPa ? [{ tone: 'caution' as const, text: 'The low pressure stands above the start: check the two readings.' }] : []),
      ...(made === undefined
        ? []
        : made <= allowed * (1 + 1e-12)
          ? [{ tone: 'plain' as const, text: `A make-up of ${show(made, 'galUS')} is within the allowance.` }]
          : [{ tone: 'stop' as const, text: `A make-up of ${show(made, 'galUS')} is over the allowance.` }]),
    ],
    working: [
      `P = (${show(startPa, 'psi')} + ${show(lowPa, 'psi')}) / 2 = ${show(meanPa, 'psi')}`,
      `S × D × √P / 148 000 = ${show(lengthM, 'ft')} × ${show(diameterM, 'in')} × √${fromSi(meanPa, 'psi').toFixed(1)} / 148 000 = ${show(rate.value, 'galUS/h')}`,
      `In ${show(seconds, 'h')}: ${show(allowed, 'galUS')}, ${show(allowed, 'L')}`,
    ],
    chart: {
      x: { label: 'Mean pressure, psi', scale: 'linear' },
      y: { label: 'Allowed, US gal/h', scale: 'linear' },
      lines: [
        {
          label: 'Allowance',
          points: curve(fromSi(10_000, 'psi'), fromSi(highest, 'psi'), 'linear', (psi) => {
            const allowance = orUndefined(at(toSi(psi, 'psi')));
            return allowance === undefined ? undefined : fromSi(allowance, 'galUS/h');
          }),
        },
      ],
      mark: { x: fromSi(meanPa, 'psi'), y: fromSi(rate.value, 'galUS/h'), label: show(rate.value, 'galUS/h', 3) },
      level: made === undefined ? undefined : { y: fromSi(made / seconds, 'galUS/h'), label: 'What was made up' },
    },
  });
}

export const makeUp: Calculation = {
  id: 'make-up',
  title: 'Water-main make-up',
  about: 'How much water a main may take while it is held at pressure.',
  parameters: [
    {
      kind: 'choice',
      id: 'material',
      label: 'Main',
      help: '',
      usual: 'iron',
      options: [...mainMaterials, 'PE'].map((value) => ({ value, label: value === 'iron' ? 'Iron' : value === 'steel' ? 'Steel' : value })),
    },
    askQuantity('length', 'Length', 'length', 'ft', '1320', ['3', '300000']),
    askQuantity('diameter', 'Nominal diameter', 'length', 'in', '8', ['1', '150']),
    askQuantity('start', 'Start pressure', 'pressure', 'psi', '200', ['2', '1450']),
    askQuantity('low', 'Low pressure', 'pressure', 'psi', '110', ['0', '1450'], 'The lowest it fell to.'),
    askQuantity('time', 'Held for', 'time', 'h', '1', ['0.1', '48']),
    askQuantity('made', 'Measured make-up', 'volume', 'galUS', '', ['0', '1000000'], 'Pumped back, drawn down into a vessel.', {
      optional: true,
    }),
  ],
  validity: [
    'Iron, steel and PVC. PE creeps: it takes up water without leaking, and needs its own method.',
    'A rule of practice; the engineer’s own criterion goes first.',
  ],
  compute,
};
