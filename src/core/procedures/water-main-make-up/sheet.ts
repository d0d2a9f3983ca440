import type { Sheet } from '../card';
import type { Names } from '.';

/** What its sheet says beside the course: what to bring, what to beware of, how the time goes, what it tells and cannot tell. */
export const sheet: Sheet<Names> = {
  kit: [
    'Test pump with relief, fed from a tank',
    'Gauge with a current certificate',
    'Measuring vessel',
    'End caps, blank flanges, restraints',
    'Hoses secured against whip',
    'Eye protection, gloves, boots',
  ],
  cautions: {
    thrust: 'Ends and bends are pushed with tonnes: blocks and restraints first, nobody in line, nobody in the trench while it is raised.',
    backflow: 'Pump from a tank, never from a pressurised main: test water must not flow back into a supply.',
  },
  means: {
    pass: 'The water that it took is within what is allowed, and no leak was seen along the line.',
    fail: 'It took more water than is allowed, or leaks: find it, repair it, then the whole test again.',
  },
  evidence: [
    { id: 'start', label: 'Gauge beside a clock, at the start', at: 'start' },
    { id: 'end', label: 'Gauge beside a clock, at the end', at: 'end' },
    { id: 'vessel', label: 'Vessel with the water drawn' },
  ],
  tasks: [
    { title: 'Fill and let the air out', activeMinutes: 60, passiveMinutes: 60, meanwhile: 'Let the air out at every high point' },
    { title: 'Hold', activeMinutes: 20, passiveMinutes: 100, meanwhile: 'Walk the line: joints, hydrants, valves, caps', holds: ['hold'] },
    { title: 'Make-up', activeMinutes: 20, passiveMinutes: 0 },
    { title: 'Restore', activeMinutes: 30, passiveMinutes: 0 },
  ],
  guide: {
    scope: ['Iron, steel and PVC mains, filled with water.', 'PE creeps and needs a method of its own: it is refused here.'],
    tells: ['How much water the main loses in the time, against what is allowed for its length and bore'],
    cannotTell: ['Where it is lost', 'What lies beyond the end valves', 'Short losses outside the time of the test'],
    outcomes: [
      { on: 'More water than allowed', act: 'Walk the line; look at hydrants, valves and joints; repair; the whole test again.' },
      { on: 'A fall larger than the hold allows', act: 'Pump back before it is reached, or follow the engineer’s written criterion.' },
      { on: 'Water seen at a joint', act: 'It fails, whatever was measured.' },
    ],
    schools:
      'Some judge by the fall alone. Trapped air holds the gauge up while water is lost, so here the water pumped back is measured and decides.',
  },
};
