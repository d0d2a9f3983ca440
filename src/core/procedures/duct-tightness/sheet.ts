import type { Sheet } from '../card';
import type { Names } from '.';

/** What its sheet says beside the course: what to bring, what to beware of, how the time goes, what it tells and cannot tell. */
export const sheet: Sheet<Names> = {
  kit: [
    'Calibrated fan with its rings',
    'Pressure gauge reading tenths of a pascal',
    'Register seals, tape, mastic',
    'Hoses and taps',
    'Smoke source',
    'Eye protection, gloves, dust mask',
  ],
  cautions: {
    moving:
      'The fan draws in hands, hair and dust: guard on, isolate before touching. Never pressurise ducts connected to a burner that runs.',
  },
  means: {
    pass: 'It leaks no more than its limit, within what this test can see.',
    fail: 'It leaks more than its limit: seal it and measure again.',
  },
  evidence: [
    { id: 'registers', label: 'Sealed registers' },
    { id: 'reference', label: 'Gauge and fan at the reference' },
  ],
  tasks: [
    { title: 'Seal and set up', activeMinutes: 40, passiveMinutes: 0 },
    { title: 'Measure', activeMinutes: 15, passiveMinutes: 0 },
    { title: 'Unseal', activeMinutes: 20, passiveMinutes: 0 },
  ],
  guide: {
    scope: [
      'Ducts that can be sealed and brought to one pressure, best while they are exposed.',
      'Finished houses, and single joints: smoke or a pressure pan at the registers.',
    ],
    tells: ['The flow that leaks at the reference pressure, total or to outdoors', 'Whether the set-up is plausible, by a second pressure'],
    cannotTell: ['Where it leaks', 'The leak in use, where each duct has a pressure of its own'],
    outcomes: [
      { on: 'Over the limit by no more than the rig’s own', act: 'The rig may be what leaks: mend or measure it, and repeat.' },
      { on: 'Over the limit by more', act: 'Smoke while the ducts are open to sight; seal; repeat in the same visit.' },
      { on: 'Exponent under 0.5 or over 1.0', act: 'The set-up is wrong: hoses, ring, taped registers.' },
    ],
    schools:
      'One school limits the flow at 25 Pa by the floor area, the other by class and duct surface at the duct’s own pressure. Both are here: choose by what the specification names.',
  },
};
