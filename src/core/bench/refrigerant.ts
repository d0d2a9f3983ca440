import { hottestSaturation, type Refrigerant, refrigerants, saturation, strengthFactors, strengthPressure } from '../physics/saturation';
import { askQuantity } from '../procedures/questions';
import { fromSi, good, type Result, referencePressure } from '../quantities';
import { type Calculation, curve, type Found, type Inputs, type Outcome, show } from './calculation';

function compute({ si, optional, text }: Inputs): Result<Outcome> {
  const fluid = text('fluid') as Refrigerant;
  const kelvin = si('temperature');
  const found = saturation(fluid, kelvin);
  if (!found.ok) return found;
  const { absolutePa, estimate } = found.value;
  const gaugePa = absolutePa - referencePressure;
  const nameplate = optional('nameplate');
  const factor = Number(text('factor'));
  // A rough estimate never sets a test pressure; the nameplate governs wherever it is known.
  const permitted = nameplate ?? (estimate ? undefined : gaugePa);
  const strength = permitted === undefined ? undefined : strengthPressure(permitted, factor);
  if (strength?.ok === false) return strength;
  const celsius = fromSi(kelvin, 'C');
  const hottest = hottestSaturation(fluid) - 273.15;
  const strengthFound: readonly Found[] =
    strength === undefined
      ? []
      : [
          { label: 'Strength test', si: strength.value, quantity: 'pressure', unit: 'bar', note: 'gauge', main: true },
          {
            label: 'Regulator must reach',
            si: strength.value,
            quantity: 'pressure',
            unit: 'bar',
            note: `and no more than about ${show(2 * strength.value, 'bar', 3)}`,
          },
        ];
  return good({
    found: [
      ...strengthFound,
      {
        label: 'Saturation',
        si: gaugePa,
        quantity: 'pressure',
        unit: 'bar',
        note: `gauge${estimate ? ', rough estimate' : ''}`,
        main: strength === undefined ? true : undefined,
      },
      { label: 'Saturation', si: absolutePa, quantity: 'pressure', unit: 'bar', note: 'absolute' },
    ],
    said: [
      ...(estimate
        ? [
            {
              tone: 'caution' as const,
              text: 'A rough estimate for a blend, up to 5 % off either way. It sets no test pressure: give the nameplate’s or a published table’s.',
            },
          ]
        : []),
      ...(nameplate !== undefined && gaugePa > nameplate
        ? [
            {
              tone: 'stop' as const,
              text: 'At this temperature the refrigerant itself stands above the nameplate’s permitted pressure: check both.',
            },
          ]
        : []),
    ],
    working: [
      estimate
        ? 'Raoult’s rule: the sum of each part’s saturation pressure by its share of moles'
        : 'p = p_c × exp(T_c/T × Σ aᵢ × θ^tᵢ), θ = 1 − T/T_c',
      `At ${celsius.toFixed(1)} °C: ${show(absolutePa, 'bar')} absolute, ${show(gaugePa, 'bar')} gauge`,
      ...(strength === undefined || permitted === undefined
        ? []
        : [
            `Strength: ${text('factor')} × ${show(permitted, 'bar')}${nameplate === undefined ? '' : ' (nameplate)'} = ${show(strength.value, 'bar')}`,
          ]),
    ],
    chart: {
      x: { label: 'Temperature, °C', scale: 'linear' },
      y: { label: 'Saturation, bar gauge', scale: 'linear' },
      lines: [
        {
          label: fluid,
          points: curve(-40, hottest, 'linear', (degrees) => {
            const other = saturation(fluid, Math.min(degrees + 273.15, hottest + 273.15));
            return other.ok ? fromSi(other.value.absolutePa - referencePressure, 'bar') : undefined;
          }),
        },
      ],
      mark: { x: celsius, y: fromSi(gaugePa, 'bar'), label: show(gaugePa, 'bar', 3) },
      level: nameplate === undefined ? undefined : { y: fromSi(nameplate, 'bar'), label: 'Nameplate' },
    },
  });
}

export const refrigerant: Calculation = {
  id: 'refrigerant',
  title: 'Refrigerant pressure',
  about: 'Saturation pressure at a design temperature, and the strength test that follows.',
  parameters: [
    {
      kind: 'choice',
      id: 'fluid',
      label: 'Refrigerant',
      help: '',
      usual: 'R134a',
      options: refrigerants.map((value) => ({ value, label: value })),
    },
    askQuantity('temperature', 'Design temperature of the side', 'temperature', 'C', '25', ['-70', '200']),
    askQuantity(
      'nameplate',
      'Permitted pressure on the nameplate',
      'pressure',
      'bar',
      '',
      ['0.1', '200'],
      'Gauge. It governs wherever it is known.',
      { optional: true },
    ),
    {
      kind: 'choice',
      id: 'factor',
      label: 'Strength factor',
      help: '',
      usual: '1.1',
      options: strengthFactors.map((value) => ({ value, label: `${value} × permitted` })),
    },
  ],
  validity: [
    'Up to the critical temperature, above which there is no saturation pressure.',
    'The maker’s nameplate goes before any calculation.',
    'Oxygen-free dry nitrogen only; each side at its own pressure.',
  ],
  compute,
};
