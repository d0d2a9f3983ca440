import type { Sheet } from '../card';
import type { Names } from '.';

/** What its sheet says beside the course: what to bring, what to beware of, how the time goes, what it tells and cannot tell. */
export const sheet: Sheet<Names> = {
  kit: [
    'Gauge reading hundredths of a millibar, logging if possible',
    'Barometer reading tenths of a hectopascal',
    'Syringe or metered volume for measuring the line',
    'Strength gauge and pump with relief',
    'Metal plugs and caps',
    'Leak-detection fluid',
    'Eye protection and gloves',
  ],
  cautions: {
    licence: 'Work on fuel gas only with the licence the law asks for. Local code and the maker’s instructions come first.',
    ignition: 'Ventilate. No flames, switches or other sources of ignition.',
    energy: 'Compressed air stores energy: raise slowly, stay clear of plugs and ends, one person at the valve.',
    purge: 'Air in a gas pipe makes an explosive mixture: purge and relight only as your licence allows.',
    smell: 'Smell of gas: stop, ventilate, no switches or flames, leave, and call the emergency number from outside.',
  },
  evidence: [
    { id: 'meter', label: 'Meter with number and reading' },
    { id: 'start', label: 'Gauge and barometer beside a clock, at the start', at: 'start' },
    { id: 'end', label: 'Gauge and barometer beside a clock, at the end', at: 'end' },
    { id: 'volume', label: 'How the volume was found' },
  ],
  tasks: [
    { title: 'Get ready, find the volume', activeMinutes: 20, passiveMinutes: 0 },
    {
      title: 'Stabilise and measure',
      activeMinutes: 4,
      passiveMinutes: 15,
      meanwhile: 'Read the meter, write the appliances down',
      holds: ['settle', 'hold'],
      supply: { of: 'gas', state: 'off' },
      phases: ['settle', 'hold'],
    },
    { title: 'Restore', activeMinutes: 10, passiveMinutes: 0, supply: { of: 'gas', state: 'on' }, phases: ['restore'] },
  ],
  guide: {
    scope: [
      'Low-pressure lines to 100 mbar operating pressure, existing or new.',
      'With a smell of gas nothing is measured: it is shut down.',
    ],
    tells: [
      'How much an existing line loses, and whether it may stay in use',
      'Whether new pipework bears its strength pressure and shows no fall',
    ],
    cannotTell: [
      'Where the leak is',
      'Anything beyond valves that are shut',
      'A rate finer than volume, gauge and barometer allow: the plan says which',
    ],
    outcomes: [
      { on: 'Unrestricted', act: 'It may be used without limit.' },
      { on: 'Reduced', act: 'It may stay in use: repair and test again by the date that the verdict gives.' },
      { on: 'Shut down, or any smell', act: 'Shut down at once, locked or blanked.' },
      { on: 'The gauge rises', act: 'The inlet lets by, or the line warms: blank the inlet, wait, and repeat.' },
    ],
    schools:
      'Other schools permit a drop in millibars; this one turns it into litres an hour, so that a large line is not forgiven what a small one is not. A rate that may lie in two bands takes the worse.',
  },
};
