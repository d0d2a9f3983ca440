import type { Sheet } from '../card';
import type { Names } from './names';

/** What its sheet says beside the course: what to bring, what to beware of, how the time goes, what it tells and cannot tell. */
export const sheet: Sheet<Names> = {
  kit: [
    'Gauge with hose and tee',
    'Voltage indicator with proving unit',
    'Temporary continuity bond',
    'Leak-detection fluid',
    'Test nipple seal',
    'Plugs and caps',
    'Eye protection and gloves',
  ],
  cautions: {
    licence: 'Work on fuel gas only with the licence the law asks for. Local code and the maker’s instructions come first.',
    ignition: 'Ventilate. No flames, switches or other sources of ignition.',
    bond: 'Fit a temporary continuity bond before any gas pipe is parted.',
    bleed: 'Let the pressure down before opening anything; ventilate while gas escapes.',
    purge: 'Purge and relight only as your licence allows; no ignition source where gas may escape.',
    smell: 'Smell of gas: stop, ventilate, no switches or flames, leave, and call the emergency number from outside.',
  },
  evidence: [
    { id: 'start', label: 'Gauge beside a clock, at the start', at: 'start' },
    { id: 'end', label: 'Gauge beside a clock, at the end', at: 'end' },
    { id: 'nipple', label: 'Test nipple refitted' },
  ],
  tasks: [
    { title: 'Get ready and zero', activeMinutes: 6, passiveMinutes: 0 },
    { title: 'Let-by', activeMinutes: 1, passiveMinutes: 1 },
    { title: 'Stabilise and hold', activeMinutes: 2, passiveMinutes: 3 },
    { title: 'Restore and relight', activeMinutes: 6, passiveMinutes: 0 },
  ],
  guide: {
    scope: [
      'Natural gas at about 21 mbar after the meter regulator, supply to 75 mbar, meter to 16 m³/h, pipe to 35 mm, 35 L in all.',
      'Larger, or at a higher pressure: the leak-rate procedure. Propane: a propane procedure.',
    ],
    tells: ['Whether the supply valve shuts', 'Whether pipework and appliances hold', 'Whether a fall lies in the pipework or beyond it'],
    cannotTell: [
      'The supply before the emergency control valve',
      'Appliances beyond their own closed controls',
      'A leak under a let-by that feeds it: the let-by is proved first for that',
    ],
    outcomes: [
      { on: 'The let-by rises', act: 'Look at the valve’s seat; confirmed, report it. No tightness test until it is cured.' },
      { on: 'The hold falls within the permitted drop', act: 'Isolate the appliances and test the pipework alone; it must not fall.' },
      { on: 'The hold falls further, or on new work at all', act: 'Soap the rig; isolate appliance by appliance; repair; all again.' },
      { on: 'Smell of gas', act: 'Stop, ventilate, leave, call the emergency number.' },
    ],
    schools:
      'Most allow an existing installation a small fall with its appliances connected, set by the meter; for the 16 m³/h meter one school gives 1.5 mbar and 1.0 is taken here, which errs safe. The litres-per-hour school judges a leak rate instead.',
  },
};
