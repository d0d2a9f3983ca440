import { procedures } from '@/core/procedures';
import { unitKind, unitLabel } from '@/core/quantities';
import type { AnyInstrument, Instrument } from '@/core/sizing';

/** The demo firm's instruments: what the vans carry, and a simulated stand-in for whatever a procedure reads. */

export interface DemoInstrument
  extends Pick<AnyInstrument, 'name' | 'kind' | 'unit' | 'readability' | 'rangeLow' | 'rangeHigh' | 'serial'> {
  readonly calibrationNeeded: boolean;
  readonly simulated: boolean;
  readonly calibratedDaysAgo?: number;
  readonly validDays?: number;
}

type Shown = Pick<AnyInstrument, 'name' | 'kind' | 'unit' | 'readability' | 'rangeLow' | 'rangeHigh' | 'serial'>;

const calibrated = (shown: Shown, calibratedDaysAgo: number): DemoInstrument => ({
  ...shown,
  calibrationNeeded: true,
  simulated: false,
  calibratedDaysAgo,
  validDays: 365,
});
const plain = (shown: Shown): DemoInstrument => ({ ...shown, calibrationNeeded: false, simulated: false });

const shown = (
  name: string,
  kind: Instrument['kind'],
  unit: Instrument['unit'],
  readability: string,
  [rangeLow, rangeHigh]: readonly [string, string],
  serial: string,
): Shown & Range => ({ name, kind, unit, readability, rangeLow, rangeHigh, serial });

const vans: readonly DemoInstrument[] = [
  // The weather: a clip for the pipe, and the air.
  calibrated(
    { name: 'Pipe clip, van 1', kind: 'digital', unit: 'C', readability: '0.1', rangeLow: '-40', rangeHigh: '90', serial: 'PC-118' },
    60,
  ),
  calibrated(
    { name: 'Barometer, van 1', kind: 'barometer', unit: 'hPa', readability: '0.1', rangeLow: '600', rangeHigh: '1100', serial: 'BA-31' },
    200,
  ),
  calibrated(shown('Van 1 digital, two decimals', 'digital', 'mbar', '0.01', ['-10', '150'], 'DG-4471'), 120),
  plain(shown('Van 1 water column', 'liquid', 'mbar', '0.25', ['0', '50'], 'WC-012')),
  calibrated(shown('Van 2 digital, one decimal', 'digital', 'mbar', '0.1', ['-10', '200'], 'DG-3902'), 401),
  plain(shown('Van 1 manometer, in w.c.', 'liquid', 'inH2O', '0.05', ['0', '30'], 'WC-031')),
  calibrated(shown('Van 2 needle, 5 psi', 'needle', 'psi', '0.05', ['0', '5'], 'ND-118'), 190),
  calibrated(shown('Van 2 needle, 15 psi', 'needle', 'psi', '0.1', ['0', '15'], 'ND-119'), 190),
  calibrated(shown('Van 2 needle, 2 psi', 'needle', 'psi', '0.02', ['0', '2'], 'ND-120'), 88),
  calibrated(shown('Van 2 needle, 60 psi', 'needle', 'psi', '1', ['0', '60'], 'ND-121'), 90),
  calibrated(shown('Van 3 digital, 10 bar', 'digital', 'bar', '0.01', ['0', '10'], 'DG-5510'), 64),
  calibrated(shown('Pump gauge, 60 bar', 'needle', 'bar', '1', ['0', '60'], 'ND-077'), 210),
  calibrated(shown('Van 3 nitrogen set, 60 bar', 'digital', 'bar', '0.1', ['0', '60'], 'DG-5533'), 34),
  calibrated(shown('Van 3 nitrogen set, second gauge', 'digital', 'bar', '0.1', ['0', '60'], 'DG-5534'), 34),
  calibrated(shown('Pool gauge, 30 psi', 'digital', 'psi', '0.1', ['0', '30'], 'DG-6120'), 150),
  calibrated(shown('Main gauge, 300 psi', 'digital', 'psi', '0.5', ['0', '300'], 'DG-6211'), 75),
  calibrated(shown('Duct manometer', 'digital', 'Pa', '0.1', ['-500', '500'], 'DM-201'), 28),
  calibrated(shown('Duct fan, ring for 4 to 60 CFM', 'digital', 'CFM', '0.1', ['4', '60'], 'DF-201-S'), 28),
  calibrated(shown('Duct fan, ring for 40 to 400 CFM', 'digital', 'CFM', '1', ['40', '400'], 'DF-201-M'), 28),
  plain(shown('Steel rule', 'scale', 'mm', '1', ['0', '1000'], 'RL-3')),
  plain(shown('Pump’s water count', 'scale', 'mL', '5', ['0', '20000'], 'PW-9')),
  plain(shown('Measuring vessel', 'scale', 'galUS', '0.05', ['0', '20'], 'MV-2')),
  plain(shown('Meter’s own test dial', 'scale', 'turn', '0.01', ['0', '1000'], 'as fitted')),
];

const simulatedMbar = shown('Simulated gauge', 'digital', 'mbar', '0.01', ['-10', '200'], 'SIM-1');

const words: Partial<Record<ReturnType<typeof unitKind>, string>> = {
  pressure: 'manometer',
  flow: 'duct fan',
  volume: 'vessel',
  length: 'rule',
  turns: 'dial',
};

type Range = Pick<Instrument, 'unit' | 'readability' | 'rangeLow' | 'rangeHigh'>;

/** Whether one can take another's place: a wider range counts as the same only in millibar, where no procedure limits it. */
const stands = (a: Range, b: Range): boolean =>
  a.unit === b.unit &&
  a.readability === b.readability &&
  (a.unit === 'mbar'
    ? Number(a.rangeLow) <= Number(b.rangeLow) && Number(a.rangeHigh) >= Number(b.rangeHigh)
    : a.rangeLow === b.rangeLow && a.rangeHigh === b.rangeHigh);

/** A simulated instrument for every reading of every procedure's example, each once. */
const simulated: (Shown & Range)[] = [simulatedMbar];
for (const { noGauge, example } of procedures)
  for (const one of [...(noGauge === true ? [] : [example.gauge]), ...Object.values(example.instruments ?? {})]) {
    const { unit, readability, rangeLow, rangeHigh } = one;
    if (simulated.some((other) => stands(other, one))) continue;
    const name = `Simulated ${words[unitKind(unit)]}, ${rangeLow} to ${rangeHigh} ${unitLabel(unit)}`;
    simulated.push(shown(name, 'digital', unit, readability, [rangeLow, rangeHigh], `SIM-${simulated.length + 1}`));
  }

export const instruments: readonly DemoInstrument[] = [
  ...vans,
  ...simulated.map((one) => ({ ...one, calibrationNeeded: true, simulated: true, calibratedDaysAgo: 200, validDays: 365 })),
];

/** The firm's simulated stand-in for an instrument of an example. */
export const standInFor = (wanted: Instrument, owned: readonly Instrument[]): Instrument => {
  const found = owned.find((one) => one.simulated && stands(one, wanted));
  if (found === undefined) throw new Error(`demo: no simulated instrument for ${wanted.name}`);
  return found;
};
