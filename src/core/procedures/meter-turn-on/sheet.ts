import type { Sheet } from '../card';
import type { Names } from '.';

/** What its sheet says beside the course: what to bring, what to beware of, how the time goes, what it tells and cannot tell. */
export const sheet: Sheet<Names> = {
  kit: [
    'Water gauge or digital gauge reading 0.1 in WC',
    'Hose with tee and burner or port to bleed at',
    'Leak-detection fluid and mirror',
    'Test-port plugs and sealant',
    'Lock or tag for the inlet stop',
    'Eye protection and gloves',
  ],
  cautions: {
    licence: 'Work on fuel gas only with the licence the law asks for. Local code and the maker’s instructions come first.',
    ignition: 'Ventilate. No flames, switches or other sources of ignition.',
    relief: 'A regulator that creeps vents gas at its relief: stand clear of the vent, no ignition source near it.',
    bleed: 'Ventilate while gas escapes at the burner or port.',
    purge: 'Purge and light only as your licence allows; no ignition source where gas may escape.',
    smell: 'Smell of gas: stop, ventilate, no switches or flames, leave, and call the emergency number from outside.',
  },
  round: [
    { id: 'shut-off', label: 'Shut-off within reach' },
    { id: 'connector', label: 'Flexible connector whole, of the right kind, through no wall' },
    { id: 'clearance', label: 'Vent and clearances' },
    { id: 'covers', label: 'No burn marks or soot' },
  ],
  evidence: [
    { id: 'start', label: 'Gauge beside a clock, at the start', at: 'start' },
    { id: 'end', label: 'Gauge beside a clock, at the end', at: 'end' },
    { id: 'dial-start', label: 'Dial at the start' },
    { id: 'dial-end', label: 'Dial at the end' },
    { id: 'report', label: 'Report of a seeping stop' },
  ],
  tasks: [
    { title: 'Get ready', activeMinutes: 8, passiveMinutes: 0 },
    {
      title: 'Lock-up and seepage',
      activeMinutes: 3,
      passiveMinutes: 6,
      meanwhile: 'Appliance round: data, shut-offs, vents',
      holds: ['hold'],
      supply: { of: 'gas', state: 'on' },
      phases: ['lock-up'],
    },
    {
      title: 'Manometer, soaping every fitting',
      activeMinutes: 8,
      passiveMinutes: 2,
      supply: { of: 'gas', state: 'off' },
      phases: ['seepage', 'hold'],
    },
    { title: 'Restore and light', activeMinutes: 12, passiveMinutes: 0, supply: { of: 'gas', state: 'on' }, phases: ['dial', 'restore'] },
  ],
  guide: {
    scope: [
      'Natural gas behind a meter and its regulator, at about 7.5 in WC. Propane: a propane procedure.',
      'New piping is proved with air first; this is the last look before gas is used.',
    ],
    tells: [
      'Whether the regulator locks up and stays there',
      'Whether the inlet stop seeps, which would hide a leak',
      'Whether the piping up to the appliance controls holds at working pressure',
    ],
    cannotTell: [
      'Anything upstream of the inlet stop',
      'Appliances beyond their own closed controls',
      'Leaks smaller than the gauge and the dial can show',
    ],
    outcomes: [
      { on: 'The regulator creeps or locks up too high', act: 'Shut the inlet stop. The regulator is replaced before anything burns.' },
      { on: 'The inlet stop seeps', act: 'Report it to the gas supplier; do not repair it. Test again when it is cured.' },
      {
        on: 'The manometer falls',
        act: 'Soap the rig, then read the test dial: it gives the rate. Find the leak by soap, repair, and start from the beginning.',
      },
      { on: 'The dial moves', act: 'A leak, whatever the manometer said. Find it by soap, drop by drop.' },
    ],
    schools:
      'The millibar school proves the valve at 7–10 mbar and holds 2 min. This one watches the regulator too, holds longer at a coarser threshold of 0.1 in WC, and has the dial as a second witness.',
  },
};
