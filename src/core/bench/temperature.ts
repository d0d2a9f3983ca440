import { correctionDoubt, expectedGauge, temperatureSensitivity } from '../physics/gas-temperature';
import { askQuantity } from '../procedures/questions';
import { type AbsolutePa, fromSi, type GaugePa, good, type Result } from '../quantities';
import { type Calculation, curve, type Inputs, type Outcome, orUndefined, show } from './calculation';

/** How far a pipe thermometer and a barometer may usually be off. */
const [doubtK, doubtHpa] = [0.5, 0.5];

function compute({ si, optional }: Inputs): Result<Outcome> {
  const [startPa, startK, endK, startAir, endAir] = [
    si('start'),
    si('start-temperature'),
    si('end-temperature'),
    si('start-air'),
    si('end-air'),
  ];
  const expectedAt = (kelvin: number) =>
    expectedGauge({
      startGaugePa: startPa as GaugePa,
      startK,
      endK: kelvin,
      startAtmospherePa: startAir as AbsolutePa,
      endAtmospherePa: endAir as AbsolutePa,
    });
  const expected = expectedAt(endK);
  if (!expected.ok) return expected;
  const sensitivity = temperatureSensitivity(startPa as GaugePa, startAir as AbsolutePa, startK);
  if (!sensitivity.ok) return sensitivity;
  const doubt = correctionDoubt({
    absolutePa: startPa + startAir,
    kelvin: startK,
    temperatureDoubtK: doubtK,
    barometerDoubtPa: doubtHpa * 100,
  });
  const read = optional('read');
  const startC = fromSi(startK, 'C');
  const reach = Math.max(5, Math.abs(endK - startK) * 1.5);
  return good({
    found: [
      { label: 'Gauge to expect with no leak', si: expected.value, quantity: 'pressure', unit: 'psi', note: 'gauge', main: true },
      { label: 'A kelvin moves it by', si: sensitivity.value, quantity: 'pressure', unit: 'psi' },
      ...(read === undefined
        ? []
        : [{ label: 'Corrected fall', si: expected.value - read, quantity: 'pressure' as const, unit: 'psi' as const }]),
      ...(doubt.ok
        ? [
            {
              label: 'The correction may be off by',
              si: doubt.value,
              quantity: 'pressure' as const,
              unit: 'psi' as const,
              note: `with ${doubtK} K and ${doubtHpa} hPa at each end`,
            },
          ]
        : []),
    ],
    said:
      read === undefined
        ? []
        : [
            doubt.ok && Math.abs(expected.value - read) <= doubt.value
              ? { tone: 'caution', text: 'What is left lies within the correction’s own doubt: it proves neither a leak nor tightness.' }
              : {
                  tone: 'plain',
                  text:
                    expected.value > read
                      ? 'More fell than the temperature explains.'
                      : 'The gauge stands above what the temperature explains.',
                },
          ],
    working: [
      `p₂ = (p₁ + a₁) × T₂/T₁ − a₂ = (${show(startPa, 'psi', 5)} + ${show(startAir, 'psi', 5)}) × ${endK.toFixed(2)} K / ${startK.toFixed(2)} K − ${show(endAir, 'psi', 5)} = ${show(expected.value, 'psi')}`,
      `Per kelvin (p₁ + a₁)/T₁ = ${show(sensitivity.value, 'psi')}`,
    ],
    chart: {
      x: { label: 'Pipe at the end, °C', scale: 'linear' },
      y: { label: 'Gauge with no leak, psi', scale: 'linear' },
      lines: [
        {
          label: 'Gauge with no leak',
          points: curve(startC - reach, startC + reach, 'linear', (celsius) => {
            const other = orUndefined(expectedAt(celsius + 273.15));
            return other === undefined ? undefined : fromSi(other, 'psi');
          }),
        },
      ],
      dots: read === undefined ? undefined : [[fromSi(endK, 'C'), fromSi(read, 'psi')] as const],
      mark: { x: fromSi(endK, 'C'), y: fromSi(expected.value, 'psi'), label: show(expected.value, 'psi') },
    },
  });
}

export const temperature: Calculation = {
  id: 'temperature',
  title: 'Temperature and barometer',
  about: 'What a sealed gas’s gauge would read after a change of temperature or weather.',
  parameters: [
    askQuantity('start', 'Gauge at the start', 'pressure', 'psi', '3.00', ['-14', '10000']),
    askQuantity('start-temperature', 'Gas at the start', 'temperature', 'F', '70', ['-60', '250']),
    askQuantity('end-temperature', 'Gas at the end', 'temperature', 'F', '60', ['-60', '250']),
    askQuantity('read', 'Gauge read at the end', 'pressure', 'psi', '', ['-14', '10000'], 'Gives the corrected fall.', { optional: true }),
    askQuantity(
      'start-air',
      'Barometer at the start',
      'pressure',
      'hPa',
      '1013.25',
      ['500', '1100'],
      'As it stands, not reduced to sea level.',
    ),
    askQuantity('end-air', 'Barometer at the end', 'pressure', 'hPa', '1013.25', ['500', '1100']),
  ],
  validity: [
    'A gas that fills a rigid, closed system, all at one temperature; −73 to 127 °C.',
    'Water is another matter: see stiffness and trapped air.',
  ],
  compute,
};
