import { gasLeakRate } from '../physics/gas-leak';
import { askQuantity } from '../procedures/questions';
import { type AbsolutePa, fromSi, good, type Result, referencePressure } from '../quantities';
import { type Calculation, curve, type Inputs, type Outcome, orUndefined, show } from './calculation';

function compute({ si, optional }: Inputs): Result<Outcome> {
  const [volumeM3, startPa, endPa, seconds] = [si('volume'), si('start'), si('end'), si('time')];
  const [startK, endK] = [optional('start-temperature'), optional('end-temperature')];
  const known = startK !== undefined && endK !== undefined;
  const rateFor = (volume: number) =>
    gasLeakRate({
      volumeM3: volume,
      startPa: (startPa + referencePressure) as AbsolutePa,
      endPa: (endPa + referencePressure) as AbsolutePa,
      seconds,
      ...(known ? { startK, endK } : {}),
    });
  const rate = rateFor(volumeM3);
  if (!rate.ok) return rate;
  const litres = volumeM3 * 1000;
  return good({
    found: [
      { label: 'Leak', si: rate.value, quantity: 'flow', unit: 'L/h', note: 'at 1013.25 hPa and 15 °C', main: true },
      { label: 'Fall', si: startPa - endPa, quantity: 'pressure', unit: 'mbar' },
    ],
    said: [
      ...(rate.value < 0
        ? [
            {
              tone: 'caution' as const,
              text: 'The amount of gas grew: something feeds the system, or the temperatures are not those of the gas.',
            },
          ]
        : []),
      ...(known ? [] : [{ tone: 'plain' as const, text: 'Without temperatures both ends are taken to be equally warm.' }]),
    ],
    working: [
      known
        ? `q = V × (p₁/T₁ − p₂/T₂) × T_ref / (p_ref × t), pressures absolute`
        : `q = V × Δp / (p_ref × t) = ${show(volumeM3, 'L')} × ${show(startPa - endPa, 'mbar')} / (1013.25 mbar × ${show(seconds, 's')})`,
      `q = ${show(rate.value, 'L/h')}`,
    ],
    chart: {
      x: { label: 'Volume, L', scale: 'log' },
      y: { label: 'Leak, L/h', scale: rate.value > 0 ? 'log' : 'linear' },
      lines: [
        {
          label: 'The same fall in another volume',
          points: curve(litres / 4, litres * 4, 'log', (volume) => {
            const other = orUndefined(rateFor(volume / 1000));
            return other === undefined ? undefined : fromSi(other, 'L/h');
          }),
        },
      ],
      mark: { x: litres, y: fromSi(rate.value, 'L/h'), label: show(rate.value, 'L/h', 3) },
    },
  });
}

export const leakRate: Calculation = {
  id: 'leak-rate',
  title: 'Leak rate from a fall',
  about: 'How much gas is lost, from how far the gauge fell in what time.',
  parameters: [
    askQuantity('volume', 'Gas volume', 'volume', 'L', '30', ['0.001', '1000000'], 'Pipes, meter and hose.'),
    askQuantity('start', 'Gauge at the start', 'pressure', 'mbar', '20', ['-1000', '1000000']),
    askQuantity('end', 'Gauge at the end', 'pressure', 'mbar', '16', ['-1000', '1000000']),
    askQuantity('time', 'Time between', 'time', 'min', '2', ['0.001', '43200']),
    askQuantity('start-temperature', 'Pipe at the start', 'temperature', 'C', '', ['-40', '90'], 'Both temperatures, or neither.', {
      optional: true,
    }),
    askQuantity('end-temperature', 'Pipe at the end', 'temperature', 'C', '', ['-40', '90'], '', { optional: true }),
  ],
  validity: [
    'An ideal gas in a rigid system; 1 mL to 1000 m³, up to 30 days.',
    'A rate found with air is multiplied by 1.65 for natural gas and by 2.2 for propane.',
  ],
  compute,
};
