import type { Sheet } from '../card';
import type { Names } from '.';

/** What its sheet says beside the course: what to bring, what to beware of, how the time goes, what it tells and cannot tell. */
export const sheet: Sheet<Names> = {
  kit: [
    'Two gauges for stage 1 (5 or 6 psi; 15 psi for 2-psi systems) and two fine ones for stage 2',
    'Compressor, or cylinder with regulator; rig with valve and relief',
    'Pipe-clip thermometer and barometer',
    'Caps, plugs and blanks',
    'Leak-detection fluid',
    'Eye protection and gloves',
  ],
  cautions: {
    licence: 'Work on fuel gas piping only with the licence the law asks for. Local code and the maker’s instructions come first.',
    gas: 'Air, nitrogen or carbon dioxide. Never oxygen, never fuel gas. Nitrogen and carbon dioxide suffocate: ventilate.',
    energy: 'Compressed gas stores energy: raise slowly, stay clear of plugs and caps, one person at the valve.',
    'over-pressure': 'More than the lowest rating damages diaphragms and regulators that nobody will see until they fail.',
    purge: 'Air in a gas pipe makes an explosive mixture: purge and relight only as your licence allows, no ignition source, ventilate.',
  },
  evidence: [
    { id: 'start', label: 'Gauge of the hold beside a clock, at the start', at: 'start' },
    { id: 'end', label: 'Gauge of the hold beside a clock, at the end', at: 'end' },
    { id: 'tag', label: 'The inspector’s tag' },
  ],
  tasks: [
    { title: 'Shut, cap and connect', activeMinutes: 30, passiveMinutes: 0 },
    { title: 'Stage 1', activeMinutes: 5, passiveMinutes: 30, meanwhile: 'Soap every joint, the rig first', holds: ['hold'] },
    { title: 'Stage 2', activeMinutes: 10, passiveMinutes: 30, meanwhile: 'Soap the controls and unions', holds: ['hold-open'] },
    { title: 'Restore', activeMinutes: 20, passiveMinutes: 0 },
  ],
  guide: {
    scope: [
      'New or altered gas piping, before gas is let in: under 1 psi working at 3 psi, and 2-psi systems at 10 psi.',
      'Piping with gas in it: the leak-rate procedure, or the turn-on at the meter set.',
    ],
    tells: ['Whether the piping holds up to its stops', 'Whether stops, regulators and controls hold with the stops open'],
    cannotTell: [
      'What was disconnected for its rating',
      'A leak under what this gauge can see in this time: the plan names it',
      'How the piping stands to its working life: it is no strength test of supports',
    ],
    outcomes: [
      { on: 'A fall in stage 1', act: 'Soap the rig, then what was last touched; let the pressure down, remake, and start again.' },
      { on: 'A fall in stage 2 only', act: 'The leak is at a stop or beyond it: soap stops, connectors and controls.' },
      {
        on: 'Steady, but the pipe warmed',
        act: 'The corrected fall decides: it can hide a leak. Wait for a steady temperature and repeat.',
      },
      { on: 'It will not come up', act: 'Stop feeding; look for an open end.' },
    ],
    schools:
      'Some shops stop after ten minutes, and many hold an hour. Here the time follows the volume, ten minutes only with your code’s reference, and a firm may ask for longer: leaks often show after a quarter of an hour.',
  },
};
