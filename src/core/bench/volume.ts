import { measuredVolume } from '../physics/measured-volume';
import { askChoice, askQuantity } from '../procedures/questions';
import { bad, good, type Result, refuse } from '../quantities';
import { boreOf, litresPerMetre, parsePipeSchedule, systemVolume } from '../sizing/pipe-volume';
import { type Calculation, figure, type Inputs, type Outcome, show } from './calculation';

function bySchedule({ text, si }: Inputs): Result<Outcome> {
  const { pipes, problems } = parsePipeSchedule(text('pipes'));
  if (problems.length > 0) return refuse({ ...problems[0], field: 'pipes' });
  if (pipes.length === 0) return bad('volume-missing', 'Type the pipe lines, like 22cu 6.5.', 'pipes');
  const meterL = si('meter') * 1000;
  const sum = systemVolume({ pipes, meterL, rigHoseL: 0, fittingsItemised: text('fittings') === 'itemised' });
  if (!sum.ok) return sum;
  const { pipesL, fittingsL, totalL, lowestL } = sum.value;
  const parts = pipes.map(({ text: line, material, size, lengthM }) => {
    const bore = boreOf(material, size);
    const perMetre = bore.ok ? litresPerMetre(bore.value.boreMm) : 0;
    return { line, litres: perMetre * lengthM, perMetre, lengthM };
  });
  let running = 0;
  return good({
    found: [
      { label: 'Volume', si: totalL / 1000, quantity: 'volume', unit: 'L', main: true },
      ...(lowestL === undefined ? [] : [{ label: 'Low estimate', si: lowestL / 1000, quantity: 'volume' as const, unit: 'L' as const }]),
      { label: 'Pipes', si: pipesL / 1000, quantity: 'volume', unit: 'L' },
      { label: 'Fittings', si: fittingsL / 1000, quantity: 'volume', unit: 'L' },
    ],
    said: lowestL === undefined ? [] : [{ tone: 'plain', text: 'Plan by the larger: a larger volume hides a larger leak.' }],
    working: [
      ...parts.map(
        ({ line, litres, perMetre, lengthM }) => `${line}: ${perMetre.toFixed(4)} L/m × ${figure(lengthM)} m = ${figure(litres)} L`,
      ),
      `${figure(pipesL)} L of pipe + ${figure(fittingsL)} L for fittings + ${figure(meterL)} L = ${figure(totalL)} L`,
    ],
    chart: {
      x: { label: 'Length laid, m', scale: 'linear' },
      y: { label: 'Litres so far', scale: 'linear' },
      lines: [
        {
          label: 'Line by line',
          points: [
            [0, 0],
            ...parts.map(({ litres }, index): readonly [number, number] => {
              running += litres;
              return [parts.slice(0, index + 1).reduce((sum, one) => sum + one.lengthM, 0), running];
            }),
          ],
        },
      ],
      mark: { x: parts.reduce((sum, { lengthM }) => sum + lengthM, 0), y: pipesL, label: `${figure(pipesL, 3)} L of pipe` },
    },
  });
}

function byMeasuring({ si }: Inputs): Result<Outcome> {
  const volume = measuredVolume(si('let-in'), si('step'));
  if (!volume.ok) return volume;
  return good({
    found: [{ label: 'Volume', si: volume.value, quantity: 'volume', unit: 'L', main: true }],
    said: [{ tone: 'plain', text: 'Let the gas in slowly and wait until the gauge stands: it warms as it is pressed together.' }],
    working: [`V = v × p_ref / Δp = ${show(si('let-in'), 'L')} × 1013.25 mbar / ${show(si('step'), 'mbar')} = ${show(volume.value, 'L')}`],
  });
}

export const volume: Calculation = {
  id: 'volume',
  title: 'Volume of pipework',
  about: 'What a pipe schedule holds, or what a known amount of gas let in says of it.',
  parameters: [
    askChoice('by', 'Found by', [
      ['schedule', 'Pipe schedule'],
      ['measuring', 'Letting a known amount in'],
    ]),
    {
      kind: 'lines',
      id: 'pipes',
      label: 'Pipe schedule',
      help: 'A line each: size, material, length or estimate. 22cu 6.5 · 1sch40 40ft · 20dn 3..5 · 16x2pex 8 · 21.3bore 4',
      usual: '22cu 12\n15cu 9',
      example: '22cu 6.5',
      askedFor: { answer: 'by', is: ['schedule'] },
    },
    askChoice(
      'fittings',
      'Fittings',
      [
        ['share', 'A tenth of the pipe'],
        ['itemised', 'Already in the schedule'],
      ],
      '',
      { askedFor: { answer: 'by', is: ['schedule'] } },
    ),
    askQuantity('meter', 'Meter and hose', 'volume', 'L', '0', ['0', '10000'], 'Diaphragm 6 m³/h 8 L; ultrasonic 2.4 L; 16 m³/h 25 L.', {
      askedFor: { answer: 'by', is: ['schedule'] },
    }),
    askQuantity('let-in', 'Gas let in', 'volume', 'L', '0.6', ['0.001', '100000'], 'Measured at atmospheric pressure.', {
      askedFor: { answer: 'by', is: ['measuring'] },
    }),
    askQuantity('step', 'Rise of the gauge', 'pressure', 'mbar', '20', ['0.01', '100000'], '', {
      askedFor: { answer: 'by', is: ['measuring'] },
    }),
  ],
  validity: ['Bores from the table of common pipes; another pipe by its bore.', 'Measured: at one temperature, in a rigid system.'],
  compute: (inputs) => (inputs.text('by') === 'measuring' ? byMeasuring(inputs) : bySchedule(inputs)),
};
