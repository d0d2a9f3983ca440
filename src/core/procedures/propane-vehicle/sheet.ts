import type { Sheet } from '../card';
import type { Names } from '.';

/** What its sheet says beside the course: what to bring, what to beware of, how the time goes, what it tells and cannot tell. */
export const sheet: Sheet<Names> = {
  kit: [
    'Gauge reading 0.1 in WC to at least 15',
    'Adapter for a burner orifice or the test port',
    'Leak-detection fluid',
    'Spare washers and port plug',
    'Thermometer',
    'Eye protection and gloves',
  ],
  cautions: {
    licence: 'Work on propane only with the licence the law asks for. Local code and the maker’s instructions come first.',
    ignition: 'Propane is heavier than air and lies in the floor: ventilate low down, no flames or switches.',
    bleed: 'Ventilate while a burner bleeds; no flame near it.',
    smell: 'Smell of gas: shut the cylinder, no switches or flames, everyone out and away, call the emergency number.',
  },
  evidence: [
    { id: 'regulator', label: 'Regulator with its date' },
    { id: 'start', label: 'Gauge beside a clock, at the start', at: 'start' },
    { id: 'end', label: 'Gauge beside a clock, at the end', at: 'end' },
    { id: 'creep', label: 'Gauge at the end of the creep' },
  ],
  tasks: [
    { title: 'Get ready', activeMinutes: 8, passiveMinutes: 0 },
    { title: 'Lock-up', activeMinutes: 2, passiveMinutes: 1 },
    { title: 'Settle and hold', activeMinutes: 2, passiveMinutes: 4 },
    { title: 'Creep', activeMinutes: 2, passiveMinutes: 3 },
    { title: 'Soap and restore', activeMinutes: 8, passiveMinutes: 0 },
  ],
  guide: {
    scope: [
      'Vehicles and small coaches with a two-stage regulator of about 11 in WC',
      'A tank that serves a building: the tank-to-appliance check.',
    ],
    tells: ['Whether the regulator locks up in its range', 'Whether the low-pressure side holds', 'Whether the cylinder valve shuts'],
    cannotTell: ['The high-pressure hose while the cylinder is shut: it is soaped instead', 'Appliances beyond their own closed controls'],
    outcomes: [
      { on: 'Lock-up over its limit', act: 'Shut the cylinder; the regulator is replaced before anything burns.' },
      { on: 'Lock-up lower than usual', act: 'Look for an empty or shut cylinder or a tired regulator, then test again.' },
      { on: 'The hold falls', act: 'Soap the rig, then fitting by fitting; repair, and start from the beginning.' },
      {
        on: 'The creep rises',
        act: 'The cylinder valve passes and may have hidden a leak: change the cylinder or its valve, and test again.',
      },
    ],
    schools:
      'Some shops hold at lock-up pressure. Here it is bled to about 8 in WC first, where a passing cylinder valve shows as a rise instead of feeding the leak unseen.',
  },
};
