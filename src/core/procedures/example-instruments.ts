import type { Gauge, Instrument, InstrumentUnit } from '../sizing/gauge';

/** Instruments of a procedure's example: always simulated, and sound on the day that simulated records are made for. */

type Shown<U extends InstrumentUnit> = Pick<Instrument<U>, 'unit' | 'readability' | 'rangeLow' | 'rangeHigh'>;

export const simulatedInstrument = <U extends InstrumentUnit>(id: string, name: string, shown: Shown<U>): Instrument<U> => ({
  id,
  name,
  kind: 'digital',
  // Two of one plan are told apart by it.
  serial: id.replace('simulated', 'SIM'),
  calibration: { needed: true, last: '2025-09-01', due: '2026-09-01' },
  simulated: true,
  ...shown,
});

export const simulatedGauge = (shown: Shown<Gauge['unit']>): Gauge => simulatedInstrument('simulated', 'Simulated gauge', shown);
