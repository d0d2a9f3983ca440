import { holdTimeForLeak, smallestVisibleLeak, unmeasuredTemperaturePa } from '../physics/hold-sight';
import { askQuantity } from '../procedures/questions';
import { fromSi, good, type Result, referencePressure, referenceTemperatureK } from '../quantities';
import { type Calculation, curve, type Inputs, type Outcome, orUndefined, show } from './calculation';

function compute({ si }: Inputs): Result<Outcome> {
  const [volumeM3, stepPa, pressurePa, leak, seconds] = [si('volume'), si('step'), si('pressure'), si('leak'), si('time')];
  const byTemperature = unmeasuredTemperaturePa(pressurePa + referencePressure, si('spread'), referenceTemperatureK);
  if (!byTemperature.ok) return byTemperature;
  const unseenPa = stepPa + byTemperature.value;
  const needed = holdTimeForLeak(volumeM3, unseenPa, leak);
  if (!needed.ok) return needed;
  const seen = smallestVisibleLeak({ volumeM3, unseenPa, seconds });
  if (!seen.ok) return seen;
  const minutesFor = (unseen: number) => (litresPerHour: number) => {
    const time = orUndefined(holdTimeForLeak(volumeM3, unseen, litresPerHour / 3.6e6));
    return time === undefined ? undefined : time / 60;
  };
  const leakLh = fromSi(leak, 'L/h');
  return good({
    found: [
      { label: 'Hold needed', si: needed.value, quantity: 'time', unit: 'min', main: true },
      { label: 'Your hold shows a leak from', si: seen.value, quantity: 'flow', unit: 'L/h' },
      { label: 'Can move unseen', si: unseenPa, quantity: 'pressure', unit: 'mbar' },
    ],
    said: [
      needed.value > seconds
        ? {
            tone: 'stop',
            text: `A hold of ${show(seconds, 'min', 3)} passes a system that leaks ${show(leak, 'L/h', 3)}: this gauge does not show it.`,
          }
        : { tone: 'plain', text: `A hold of ${show(seconds, 'min', 3)} is long enough for a leak of ${show(leak, 'L/h', 3)}.` },
    ],
    working: [
      `δ = ${show(stepPa, 'mbar')} (one step) + ${show(byTemperature.value, 'mbar')} (temperature) = ${show(unseenPa, 'mbar')}`,
      `t = V × δ / (p_ref × q) = ${show(volumeM3, 'L')} × ${show(unseenPa, 'mbar')} / (1013.25 mbar × ${show(leak, 'L/h')}) = ${show(needed.value, 'min')}`,
      `In ${show(seconds, 'min')}: q = V × δ / (p_ref × t) = ${show(seen.value, 'L/h')}`,
    ],
    chart: {
      x: { label: 'Leak, L/h', scale: 'log' },
      y: { label: 'Hold that shows it, min', scale: 'log' },
      lines: [
        { label: 'This gauge', points: curve(leakLh / 10, leakLh * 10, 'log', minutesFor(unseenPa)) },
        {
          label: 'A gauge ten times finer',
          points: curve(leakLh / 10, leakLh * 10, 'log', minutesFor(stepPa / 10 + byTemperature.value)),
          dashed: true,
        },
      ],
      mark: { x: leakLh, y: needed.value / 60, label: show(needed.value, 'min', 3) },
      level: { y: seconds / 60, label: 'Your hold' },
    },
  });
}

export const holdTime: Calculation = {
  id: 'hold-time',
  title: 'Hold time and what it can see',
  about: 'How long a hold must last before a leak of concern can show on this gauge.',
  parameters: [
    askQuantity('volume', 'Gas volume', 'volume', 'L', '60', ['0.001', '1000000']),
    askQuantity('step', 'One step of the gauge', 'pressure', 'psi', '0.1', ['0.00001', '100']),
    askQuantity('leak', 'Leak of concern', 'flow', 'L/h', '1', ['0.0001', '100000']),
    askQuantity('time', 'Your hold', 'time', 'min', '15', ['0.1', '10000']),
    askQuantity(
      'pressure',
      'Test pressure',
      'pressure',
      'psi',
      '3',
      ['0', '10000'],
      'Counts only with a temperature that may change unnoticed.',
    ),
    askQuantity('spread', 'Temperature may change unnoticed by', 'difference', 'kelvin', '0', ['0', '30']),
  ],
  validity: ['A gas in a rigid system, and a leak that stays as it is while the pressure falls a little.'],
  compute,
};
