import { compare, decimal, exactSi, type PressureUnit, parseQuantity } from '../../quantities';
import type { Problem } from '../../quantities/result';
import type { Asked, Figures, IdsOf } from '../card';
import type { CourseInput } from '../procedure';
import { askChoice, askQuantity } from '../questions';
import { type MeterClass, meters, permittedFigures } from './meters';

/** What is asked, the figures that house rules may tighten, and what lies outside the procedure. */

export const figures = [
  { id: 'let-by-low', label: 'Let-by band from', value: '7', unit: 'mbar', stricter: 'higher' },
  { id: 'let-by-high', label: 'Let-by band to', value: '10', unit: 'mbar', stricter: 'lower' },
  { id: 'let-by-seconds', label: 'Let-by time', value: '60', unit: 's', stricter: 'higher' },
  { id: 'test-low', label: 'Test band from', value: '20', unit: 'mbar', stricter: 'higher' },
  { id: 'test-high', label: 'Test band to', value: '21', unit: 'mbar', stricter: 'lower' },
  { id: 'settle-seconds', label: 'Stabilising time', value: '60', unit: 's', stricter: 'higher' },
  { id: 'hold-seconds', label: 'Hold', value: '120', unit: 's', stricter: 'higher' },
  { id: 'perceptible-liquid', label: 'Perceptible on a liquid gauge', value: '0.25', unit: 'mbar', stricter: 'lower', bound: '0.01' },
  {
    id: 'perceptible-one-decimal',
    label: 'Perceptible on a one-decimal gauge',
    value: '0.2',
    unit: 'mbar',
    stricter: 'lower',
    bound: '0.01',
  },
  {
    id: 'perceptible-two-decimals',
    label: 'Perceptible on a two-decimal gauge',
    value: '0.25',
    unit: 'mbar',
    stricter: 'lower',
    bound: '0.01',
  },
  ...permittedFigures,
] as const satisfies Figures;

const yesNo = [
  { value: 'no', label: 'No' },
  { value: 'yes', label: 'Yes' },
];

export const parameters = [
  askChoice(
    'fuel',
    'Fuel',
    [
      ['natural gas', 'Natural gas'],
      ['lpg', 'LPG'],
    ],
    'What the installation burns.',
  ),
  askChoice(
    'work',
    'Work',
    [
      ['existing', 'Existing installation'],
      ['new', 'New work'],
    ],
    'A newly fitted appliance counts as new work.',
  ),
  {
    kind: 'choice',
    id: 'smell',
    label: 'Smell of gas reported',
    help: 'With a smell reported nothing may be perceived on the gauge.',
    usual: 'no',
    options: yesNo,
  },
  askChoice(
    'appliances',
    'Tested with',
    [
      ['appliances connected', 'Appliances connected'],
      ['pipework only', 'Pipework only'],
    ],
    'Whether the appliances stay connected.',
  ),
  {
    kind: 'choice',
    id: 'meter',
    label: 'Meter',
    help: 'Its size sets the permitted drop and part of the volume.',
    usual: 'diaphragm-6',
    options: (Object.keys(meters) as MeterClass[]).map((value) => ({ value, label: meters[value].label })),
  },
  askChoice(
    'pipe',
    'Largest pipe',
    [
      ['<=28', 'To 28 mm'],
      ['>28-35', 'Over 28 to 35 mm'],
      ['>35', 'Over 35 mm'],
    ],
    'Outside size of the largest pipe tested.',
  ),
  askChoice(
    'supply-end',
    'Supply end',
    [
      ['valve', 'Its valve shut, and proved by a let-by test'],
      ['parted', 'Parted from the valve, and capped'],
    ],
    'A valve may let by a little unseen; where it is parted and capped nothing is let by.',
  ),
  askQuantity('supply', 'Supply pressure, up to', 'pressure', 'mbar', '75', ['0.001', '1000000'], 'Before the meter regulator.'),
  askQuantity('working', 'Working pressure', 'pressure', 'mbar', '21', ['0.001', '1000000'], 'After the meter regulator.'),
] as const satisfies Asked;

export type Input = CourseInput<IdsOf<typeof figures>, IdsOf<typeof parameters>>;

const seen = (code: string, field: string, message: string): Problem => ({ code, field, message });

/** Above a limit in the typed unit, exactly. */
function above(text: string, unit: PressureUnit, limit: string): boolean | undefined {
  const typed = parseQuantity(text, 'pressure', unit);
  if (!typed.ok) return undefined;
  return compare(exactSi(typed.value.value, typed.value.unit as PressureUnit), exactSi(decimal(limit), unit)) > 0;
}

export function outOfScope(
  answers: Input['answers'],
  volume: { readonly systemL: number; readonly largestNominalMm: number },
): readonly Problem[] {
  const problems: Problem[] = [];
  const elsewhere = 'Use the leak-rate procedure for larger or higher-pressure installations.';
  if (answers.fuel !== 'natural gas')
    problems.push(seen('scope-lpg', 'fuel', 'This procedure is for natural gas only. LPG behaves differently: use a propane procedure.'));
  if (above(answers.supply, 'mbar', '75') !== false)
    problems.push(seen('scope-supply', 'supply', `The supply may be at most 75 mbar for this procedure. ${elsewhere}`));
  if (above(answers.working, 'mbar', '21') !== false)
    problems.push(seen('scope-working', 'working', `The working pressure after the meter regulator may be at most 21 mbar. ${elsewhere}`));
  if (answers.pipe === '>35' || volume.largestNominalMm > 35)
    problems.push(seen('scope-pipe', 'pipe', `Pipe may be at most 35 mm for this procedure. ${elsewhere}`));
  else if (answers.pipe === '<=28' && volume.largestNominalMm > 28)
    problems.push(
      seen(
        'pipe-contradiction',
        'pipe',
        `The schedule holds pipe of ${volume.largestNominalMm} mm, but the largest pipe is given as up to 28 mm. Correct one of them; the permitted drop depends on it.`,
      ),
    );
  // Rounded to a millilitre first, so that every machine draws the line at the same place.
  if (Math.round(volume.systemL * 1000) > 35_000)
    problems.push(
      seen('scope-volume', 'volume', `The volume is ${volume.systemL.toFixed(1)} L; this procedure ends at 35 L. ${elsewhere}`),
    );
  return problems;
}
