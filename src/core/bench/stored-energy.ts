import { endThrust, frictionPlugN } from '../physics/end-thrust';
import { stayClearJ, storedEnergy } from '../physics/stored-energy';
import { askQuantity } from '../procedures/questions';
import { fromSi, good, type Result, referencePressure, toSi } from '../quantities';
import { type Calculation, curve, figure, type Inputs, type Outcome, orUndefined, show } from './calculation';

function compute({ si }: Inputs): Result<Outcome> {
  const [volumeM3, gaugePa, diameterM] = [si('volume'), si('pressure'), si('diameter')];
  const energy = storedEnergy(volumeM3, gaugePa + referencePressure, referencePressure);
  if (!energy.ok) return energy;
  const thrust = endThrust(gaugePa, diameterM);
  if (!thrust.ok) return thrust;
  const kilojoules = (bar: number) => {
    const other = orUndefined(storedEnergy(volumeM3, toSi(bar, 'bar') + referencePressure, referencePressure));
    return other === undefined ? undefined : other / 1000;
  };
  const bar = fromSi(gaugePa, 'bar');
  return good({
    found: [
      { label: 'Stored energy', si: energy.value, quantity: 'energy', unit: '', main: true },
      { label: 'Thrust on that end', si: thrust.value, quantity: 'force', unit: '', main: true },
    ],
    said: [
      ...(energy.value > stayClearJ
        ? [
            {
              tone: 'stop' as const,
              text: `Over ${stayClearJ / 1000} kJ: stay clear, one person at the valve. Water under the same pressure stores hundreds of times less: prefer it.`,
            },
          ]
        : []),
      ...(thrust.value > frictionPlugN
        ? [{ tone: 'stop' as const, text: `Over ${frictionPlugN} N: never trust a plug that only friction holds, whatever the energy.` }]
        : []),
    ],
    working: [
      `E = p × V / 0.4 × (1 − (p_a/p)^(0.4/1.4)), p absolute = ${show(gaugePa + referencePressure, 'bar')}: ${figure(energy.value / 1000)} kJ`,
      `F = p × π × d² / 4 = ${show(gaugePa, 'bar')} × π × (${show(diameterM, 'mm')})² / 4 = ${figure(thrust.value)} N`,
    ],
    ...(bar > 0
      ? {
          chart: {
            x: { label: 'Test pressure, bar gauge', scale: 'log' as const },
            y: { label: 'Stored energy, kJ', scale: 'log' as const },
            lines: [{ label: 'Gas in this volume', points: curve(bar / 10, bar * 10, 'log', kilojoules) }],
            mark: { x: bar, y: energy.value / 1000, label: `${figure(energy.value / 1000, 3)} kJ` },
            level: { y: stayClearJ / 1000, label: 'Stay clear' },
          },
        }
      : {}),
  });
}

export const storedEnergyCalculation: Calculation = {
  id: 'stored-energy',
  title: 'Stored energy and end thrust',
  about: 'What a test with compressed gas sets free if it bursts, and what pushes at a plug.',
  parameters: [
    askQuantity('volume', 'Gas volume', 'volume', 'L', '50', ['0.001', '10000000']),
    askQuantity('pressure', 'Test pressure', 'pressure', 'bar', '16.3', ['0', '900']),
    askQuantity('diameter', 'Diameter of the plug or cap', 'length', 'mm', '28', ['1', '5000']),
  ],
  validity: ['Gas that expands at once, without heat: the worst case.', 'Thrust counts with liquids too.'],
  compute,
};
