import type { Sheet } from '../card';
import type { Names } from '.';

/** What its sheet says beside the course: what to bring, what to beware of, how the time goes, what it tells and cannot tell. */
export const sheet: Sheet<Names> = {
  kit: [
    'Oil-free compressor with regulator and relief',
    'Gauge of 0 to 100 psi or finer with valve and inlet adapter',
    'Leak-detection fluid',
    'Spare washers, inlet gasket',
    'Eye protection, hearing protection',
  ],
  cautions: {
    element: 'Water heater off before it is drained: a dry element burns out.',
    energy: 'Compressed air stores energy: raise slowly, never above the plumbing’s rating, eye protection on.',
  },
  means: { fail: 'It leaks: repair it before it is filled with water, then the whole test again.' },
  evidence: [
    { id: 'start', label: 'Gauge beside a clock, at the start', at: 'start' },
    { id: 'end', label: 'Gauge beside a clock, at the end', at: 'end' },
  ],
  tasks: [
    { title: 'Drain and blow out', activeMinutes: 25, passiveMinutes: 0 },
    {
      title: 'Hold',
      activeMinutes: 3,
      passiveMinutes: 10,
      meanwhile: 'Soap the rig, then the pump, the heater and every fitting',
      holds: ['hold'],
    },
    { title: 'Restore', activeMinutes: 10, passiveMinutes: 0 },
  ],
  guide: {
    scope: ['Water systems of vehicles whose plumbing is rated for the test pressure. Lower: water at working pressure.'],
    tells: ['Whether pipes, fittings, pump and heater hold air at about 50 psi'],
    cannotTell: ['The tank', 'Small leaks that only water shows as a drop: the plan says how small'],
    outcomes: [
      { on: 'It falls', act: 'Soap the rig, then the pump, heater and toilet valve; repair; the whole hold again.' },
      { on: 'It rises', act: 'The vehicle warms: read pipe temperatures at both ends, and repeat.' },
    ],
    schools:
      'Some use water and a short look. Air finds small leaks sooner and leaves nothing to freeze; it stores more energy, so the rating is a hard ceiling.',
  },
};
