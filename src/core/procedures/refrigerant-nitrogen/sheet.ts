import type { Sheet } from '../card';
import type { Names } from '.';

/** What its sheet says beside the course: what to bring, what to beware of, how the time goes, what it tells and cannot tell. */
export const sheet: Sheet<Names> = {
  kit: [
    'Nitrogen cylinder, chained, with a regulator to 1–2 times the test pressure',
    'Manifold and hoses rated for the test pressure',
    'A gauge for each side',
    'Pipe-clip thermometer and barometer',
    'Bubble solution',
    'Caps, Schrader tools, magnet for solenoids',
    'Eye protection, gloves, hearing protection',
  ],
  cautions: {
    nitrogen:
      'Oxygen-free dry nitrogen only. It suffocates: ventilate, vent outdoors, hold the hose. Local code and the maker’s instructions come first.',
    energy:
      'Compressed gas at this pressure throws parts: clear the area, raise in steps, one person at the valve, never in line with a joint.',
  },
  evidence: [
    { id: 'plate', label: 'Nameplate' },
    { id: 'cylinder', label: 'Cylinder’s label' },
    { id: 'start', label: 'Gauge and thermometer beside a clock, at the start', at: 'start' },
    { id: 'end', label: 'Gauge and thermometer beside a clock, at the end', at: 'end' },
  ],
  tasks: [
    { title: 'Isolate, take off, connect', activeMinutes: 30, passiveMinutes: 0 },
    {
      title: 'Raise in steps, strength',
      activeMinutes: 12,
      passiveMinutes: 15,
      meanwhile: 'Stay clear; watch the other side’s gauge',
      holds: ['strength-low', 'strength-high'],
    },
    {
      title: 'Tightness, bubbles on every joint',
      activeMinutes: 25,
      passiveMinutes: 35,
      meanwhile: 'Bubbles on every joint, written down',
      holds: ['tightness-low', 'tightness-high'],
    },
    { title: 'Vent, put back', activeMinutes: 15, passiveMinutes: 0 },
  ],
  guide: {
    scope: [
      'Field pipework of refrigerating and heat-pump plant, refrigerant recovered.',
      'Above the critical temperature, and for blends without a table here, PS comes from the nameplate.',
    ],
    tells: ['Whether each side bears its strength pressure', 'Whether each side is tight at PS, temperature accounted for'],
    cannotTell: [
      'Parts that were isolated or taken off',
      'Leaks smaller than volume, gauge and thermometer allow: the plan says which',
      'Moisture: that is what evacuation is for',
    ],
    outcomes: [
      { on: 'It falls', act: 'Bubbles on manifold, then on every joint. Vent first, repair, and start from the beginning.' },
      {
        on: 'The gauge stands while you let down',
        act: 'A service valve is shut, or a core is not pressed in: the pipes were never seen. Open it, and start again.',
      },
      { on: 'The other side moves', act: 'The sides are not apart: find the valve that passes, and start again.' },
      { on: 'The correction is unsure', act: 'Wait until the pipe’s temperature is steady, or hold for longer, and repeat.' },
    ],
    schools:
      'Some test both sides at the high side’s pressure. Here each side sees its own, since parts of the low side are rated for no more. 1.1 × PS is the default; 1.43 can be chosen.',
  },
};
