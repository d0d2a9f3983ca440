import type { Sheet } from '../card';
import type { Names } from '.';

/** What its sheet says beside the course: what to bring, what to beware of, how the time goes, what it tells and cannot tell. */
export const sheet: Sheet<Names> = {
  kit: [
    'Gauge for the tank’s pressure with its fitting',
    'Low-pressure gauge reading 0.1 in WC',
    'Leak-detection fluid',
    'Orifice gauge and list',
    'Spare regulator, connectors, plugs',
    'Eye protection and gloves',
  ],
  cautions: {
    licence: 'Work on propane only with the licence the law asks for. Local code and the maker’s instructions come first.',
    ignition: 'Propane is heavier than air: ventilate low down, no flames or switches.',
    bleed: 'Liquid propane burns the skin with cold: bleed vapour only, slowly, outdoors.',
    smell: 'Smell of gas: tank shut, no switches or flames, people out and away, call the emergency number.',
  },
  round: [
    { id: 'shut-off', label: 'Shut-off within reach' },
    { id: 'connector', label: 'Flexible connector whole, of the right kind, through no wall' },
    { id: 'drip-leg', label: 'Drip leg where one is wanted' },
    { id: 'clearance', label: 'Vent and clearances' },
    { id: 'covers', label: 'Covers off, no burn marks or soot, covers back on' },
    { id: 'orifice', label: 'Orifice right for propane' },
  ],
  evidence: [
    { id: 'plate', label: 'Tank’s plate' },
    { id: 'start', label: 'Gauge beside a clock, at the start', at: 'start' },
    { id: 'end', label: 'Gauge beside a clock, at the end', at: 'end' },
  ],
  tasks: [
    { title: 'Get ready', activeMinutes: 10, passiveMinutes: 0 },
    { title: 'Hold, with the appliance round', activeMinutes: 3, passiveMinutes: 5, meanwhile: 'Appliance round', holds: ['hold'] },
    { title: 'Low-pressure hold', activeMinutes: 3, passiveMinutes: 3 },
    { title: 'Gas on, light everything', activeMinutes: 15, passiveMinutes: 0 },
  ],
  guide: {
    scope: ['Propane tanks that serve a building. Vehicles have their own procedure.', 'New piping is proved under air first.'],
    tells: [
      'Whether the tank valve shuts',
      'Gross leaks at tank pressure',
      'The state of every appliance, connector and regulator',
      'With the low-pressure hold: small leaks after the last regulator',
    ],
    cannotTell: [
      'Small leaks by the tank’s coarse gauge: the plan says how large they must be',
      'A leak that a passing tank valve feeds at just the pressure of the hold: the low-pressure hold shows it',
      'Appliances beyond their own closed controls',
    ],
    outcomes: [
      {
        on: 'The gauge rises',
        act: 'The tank valve passes, or the sun is on the tank: shade it, start lower, and repeat; else the valve is replaced.',
      },
      { on: 'The gauge falls', act: 'Soap the fitting, then the line; repair, and start from the beginning.' },
      { on: 'An appliance has changed', act: 'Look at it as at new work: line size, connector, orifice, clearance.' },
    ],
    schools:
      'The check by the tank’s gauge alone is common and sees little. It is kept because it covers the high-pressure side; the low-pressure hold is offered beside it.',
  },
};
