import type { Sheet } from '../card';
import type { Names } from '.';

/** What its sheet says beside the course: what to bring, what to beware of, how the time goes, what it tells and cannot tell. */
export const sheet: Sheet<Names> = {
  kit: ['Cap or blank for the far end', 'Leak-detection fluid', 'Spare seals', 'Eye protection'],
  cautions: {
    energy: 'Compressed gas stores energy: raise slowly, keep clear of the cap and the hose’s end.',
    moving: 'Fan blades turn: keep hands and sleeves out of the ring.',
  },
  means: { fail: 'The rig leaks: mend it and check it again before anything is tested with it.' },
  evidence: [
    { id: 'start', label: 'Gauge beside a clock, at the start', at: 'start' },
    { id: 'end', label: 'Gauge beside a clock, at the end', at: 'end' },
  ],
  tasks: [
    { title: 'Put together and zero', activeMinutes: 3, passiveMinutes: 0 },
    { title: 'Hold the rig', activeMinutes: 1, passiveMinutes: 3, meanwhile: 'Get the system ready', holds: ['hold'] },
    { title: 'Let down, mark', activeMinutes: 1, passiveMinutes: 0 },
  ],
  guide: {
    scope: ['The rig alone, on no system. A test of a system is another procedure.'],
    tells: ['Whether the rig holds the pressure of the test to come', 'What a duct fan and its connector leak by themselves'],
    cannotTell: [
      'The joint that the rig makes with a system: it is soaped in the test',
      'A rig that is knocked about afterwards: the check is dated, and done again',
    ],
    outcomes: [
      { on: 'The gauge falls', act: 'Soap the rig; mend what bubbles; check it again before any test.' },
      { on: 'The cap alone leaks', act: 'Seal the cap anew and check again: this said nothing of the rig.' },
      { on: 'The ring shows nothing', act: 'Measure at a higher pressure, or with a smaller ring.' },
    ],
  },
};
