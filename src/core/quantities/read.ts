import { type TemperatureUnit, type Unit, type UnitKind, unitKind } from './units';

/** What a figure on site is a reading of. Temperature is the pipe's. */
export const readQuantities = ['pressure', 'temperature', 'barometer', 'flow', 'volume', 'level', 'turns'] as const;
export type ReadQuantity = (typeof readQuantities)[number];

/** A unit that an instrument of a plan shows. */
export type InstrumentUnit = Exclude<Unit, TemperatureUnit>;

const read: Partial<Record<UnitKind, ReadQuantity>> = {
  pressure: 'pressure',
  flow: 'flow',
  volume: 'volume',
  length: 'level',
  turns: 'turns',
};

/** What an instrument of a unit is read for. */
export const quantityOf = (unit: InstrumentUnit): ReadQuantity => read[unitKind(unit)] ?? 'pressure';
