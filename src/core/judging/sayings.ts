import { atOnce, finder, reason } from '../limits';
import type { RunCode } from '../procedures/fault';
import { neverCalibrated } from '../sizing';

const wasDue = (due: string): string => (due === neverCalibrated ? 'no calibration of it is on file' : `its calibration was due on ${due}`);

/** What is found of a run itself, whatever decides its phases. */
export const sayings = {
  round: reason<'title' | 'round' | 'start' | 'end' | 'unit' | 'outcome' | 'why'>(
    'note',
    (d) =>
      `${d.title}, round ${d.round}: ${d.start === '' ? 'no start' : d.end === '' ? `${d.start} ${d.unit}` : `${d.start} to ${d.end} ${d.unit}`}, ${d.outcome.replaceAll('-', ' ')}${d.why === '' ? '' : ` (${d.why})`}; it was done again.`,
  ),
  unheard: reason<'what' | 'title' | 'why'>('note', (d) => `${d.what} for ${d.title} is kept and changes nothing: ${d.why}.`),
  'restart-refused': atOnce(reason<'title' | 'why'>('note', (d) => `A new round from ${d.title} was asked for and not given: ${d.why}.`)),
  'pen-elsewhere': reason<'what' | 'title'>(
    'note',
    (d) => `${d.what} for ${d.title} came from a device that does not hold the pen; it is kept and moves nothing.`,
  ),
  'appliance-swapped': reason<'name' | 'was' | 'serial'>(
    'note',
    (d) => `${d.name}: serial ${d.serial} instead of ${d.was}, another appliance than before.`,
  ),
  'appliance-not-in-order': reason<'name' | 'check' | 'todo'>(
    'note',
    (d) =>
      `${d.name}: “${d.check}” is not in order. ${d.todo === '' ? 'What is to be done is not written down.' : `To be done: ${d.todo}.`}`,
  ),
  'remade-while-raising': reason<'text'>(
    'note',
    (d) =>
      `Found while raising, before the hold began: ${d.text || 'no place given'}. It was to be remade and raised again; the hold then judges it.`,
  ),
  'leak-found': reason<'text' | 'section'>(
    'override',
    (d) => `The search found a leak at ${d.text || d.section}. That overrides any gauge.`,
  ),
  'over-rating': reason<'value' | 'unit' | 'title' | 'ceiling' | 'limitUnit'>(
    'inconclusive',
    (d) =>
      `${d.value} ${d.unit} stood during ${d.title}, over the ${d.ceiling} ${d.limitUnit} that the weakest part may see, by more than a step of the gauge. Until that part was looked at and found sound nothing is proved.`,
  ),
  'over-rating-sound': reason<'text'>('note', (d) => `What stood over its rating was looked at and is sound: ${d.text}`),
  'over-rating-harmed': reason<'text'>('override', (d) => `What stood over its rating was harmed: ${d.text || 'no place given'}.`),
  'boundary-opened': reason<'label'>(
    'inconclusive',
    (d) => `${d.label}: said to be open after it had been proved. That cannot give a pass.`,
  ),
  'clock-unproved': reason<'title' | 'why'>(
    'inconclusive',
    (d) =>
      `The time of ${d.title} is not proved: ${d.why}. It is settled when the devices next reach the server; until then it counts for nothing.`,
  ),
  'found-differs': reason<'about' | 'text'>(
    'inconclusive',
    (d) => `The firm’s register and the server’s clock say otherwise: ${d.text} Until that is cleared nothing is proved.`,
  ),
  'found-overdue': reason<'about' | 'text'>('invalid', (d) => `The firm’s register says otherwise: ${d.text} What it read proves nothing.`),
  'found-noted': reason<'about' | 'text'>('note', (d) => `Noted by the server: ${d.text}`),
  'clock-by-watch': reason<'title' | 'why' | 'seconds'>(
    'note',
    (d) => `The time of ${d.title} is proved by a watch: ${d.why}, and by the watch ${d.seconds} s lay between its readings.`,
  ),
  'start-not-under': atOnce(
    reason<'value' | 'unit' | 'title' | 'least' | 'most' | 'read' | 'limitUnit'>(
      'note',
      (d) =>
        `A start reading of ${d.value} ${d.unit} for ${d.title} does not count: it must lie ${d.least} to ${d.most} ${d.limitUnit} under the ${d.read} ${d.unit} that was read before.`,
    ),
  ),
  'stopped-hold': reason<'title' | 'reason'>(
    'inconclusive',
    (d) => `${d.title} was stopped early (${d.reason}) without a fall over the limit.`,
  ),
  'stopped-fall': reason<'title' | 'fall' | 'unit'>(
    'note',
    (d) => `${d.title} was stopped early: the fall of ${d.fall} ${d.unit} was already over the limit.`,
  ),
  continued: reason('note', () => 'It went on under this pressure in the next attempt; the closing steps were left to that.'),
  stopped: reason<'reason'>('inconclusive', (d) => `The test was ended before it was complete: ${d.reason}`),
  'no-proof': reason('inconclusive', () => 'Nothing that was recorded proves tightness or a leak.'),
  smell: reason('override', () => 'Gas was smelt. That overrides any gauge.'),
  'leak-seen': reason<'text'>('override', (d) => `A leak was seen on the system: ${d.text || 'no place given'}. That overrides any gauge.`),
  disturbed: atOnce(
    reason<'title' | 'what'>('inconclusive', (d) => `${d.title} was disturbed (${d.what}); a disturbed hold does not count. Restart it.`),
  ),
  'disturbance-waived': reason<'what' | 'reason'>('note', (d) => `A disturbance (${d.what}) was set aside: ${d.reason}`),
  'waiver-refused': reason<'what'>('note', (d) => `${d.what} can never be set aside; the waiver has no effect.`),
  'rig-leak-seen': atOnce(reason<'title'>('inconclusive', (d) => `Bubbles on the rig during ${d.title}: mend the rig and restart.`)),
  'clock-jump': atOnce(
    reason<'seconds' | 'title'>(
      'inconclusive',
      (d) => `The device’s clock jumped by ${d.seconds} s during ${d.title}, so its time is not proved. Restart it.`,
    ),
  ),
  gap: reason<'seconds' | 'title'>('note', (d) => `The device slept for ${d.seconds} s during ${d.title}; the wall clock went on.`),
  'explained-by': reason<'title' | 'way' | 'moved' | 'unit' | 'turn' | 'degrees'>(
    'note',
    (d) => `${d.title}: a ${d.way} of ${d.moved} ${d.unit} is what a pipe that ${d.turn} by ${d.degrees} makes by itself.`,
  ),
  'weather-overdue': reason<'name' | 'due' | 'on'>(
    'note',
    (d) => `${d.name}: ${wasDue(d.due)}; it was read on ${d.on}, and corrects nothing in favour of a pass.`,
  ),
  'gauge-overdue': reason<'name' | 'due' | 'on'>('invalid', (d) => `${d.name}: ${wasDue(d.due)}; it was read on ${d.on}.`),
  'gauge-coarse': reason<'readability' | 'unit' | 'limit' | 'limitUnit'>(
    'inconclusive',
    (d) =>
      `The gauge shows steps of ${d.readability} ${d.unit}; a movement of ${d.limit} ${d.limitUnit} must be seen. It cannot prove tightness.`,
  ),
  'gauge-range': reason<'high' | 'unit' | 'needed' | 'neededUnit'>(
    'inconclusive',
    (d) => `The gauge’s range ends at ${d.high} ${d.unit}; the test needs ${d.needed} ${d.neededUnit}.`,
  ),
  'gauge-range-wide': reason<'high' | 'unit' | 'times' | 'needed' | 'neededUnit'>(
    'inconclusive',
    (d) =>
      `The gauge’s range of ${d.high} ${d.unit} is more than ${d.times} times the test pressure of ${d.needed} ${d.neededUnit}; it is read too badly there to prove tightness.`,
  ),
  'gauge-range-short': reason<'high' | 'unit' | 'leastTimes' | 'needed' | 'neededUnit'>(
    'inconclusive',
    (d) =>
      `The gauge’s range of ${d.high} ${d.unit} is less than ${d.leastTimes} times the test pressure of ${d.needed} ${d.neededUnit}; so near its end it proves nothing.`,
  ),
  'gauge-certificate-old': reason<'last' | 'on' | 'years'>(
    'invalid',
    (d) => `The gauge was last calibrated on ${d.last}; the test on ${d.on} wants a certificate of at most ${d.years} years.`,
  ),
  'gauge-coarser-choice': reason('note', () => 'A one-decimal gauge was used; it is the coarser choice.'),
  'not-zeroed': atOnce(
    reason<'value' | 'unit'>(
      'invalid',
      (d) => `Disconnected, the gauge showed ${d.value} ${d.unit} and not zero; nothing read with it counts.`,
    ),
  ),
  'boundary-unproved': reason<'label'>('inconclusive', (d) => `${d.label}: not proved. An unproved boundary cannot give a pass.`),
  'second-start': atOnce(
    reason<'value' | 'unit' | 'title'>(
      'note',
      (d) => `A second start reading (${d.value} ${d.unit}) for ${d.title} came after the phase had started; the first stands.`,
    ),
  ),
  'second-end': atOnce(
    reason<'value' | 'unit' | 'title'>(
      'note',
      (d) => `A second end reading (${d.value} ${d.unit}) for ${d.title} came after the phase had ended; the first stands.`,
    ),
  ),
  'early-end': atOnce(
    reason<'value' | 'unit' | 'title' | 'early'>(
      'note',
      (d) => `An end reading (${d.value} ${d.unit}) for ${d.title} was taken ${d.early} s before it was due; it does not count as an end.`,
    ),
  ),
  'start-out-of-band': atOnce(
    reason<'value' | 'unit' | 'title' | 'low' | 'high' | 'limitUnit'>(
      'note',
      (d) => `A start reading of ${d.value} ${d.unit} for ${d.title} is outside ${d.low} to ${d.high} ${d.limitUnit}; it does not count.`,
    ),
  ),
  'start-too-soon': atOnce(
    reason<'title'>('note', (d) => `A start reading for ${d.title} was taken before the phase before it was over; it does not count.`),
  ),
  'reading-order': reason<'value' | 'unit' | 'title'>(
    'note',
    (d) => `A reading of ${d.value} ${d.unit} for ${d.title} was taken before the phase’s start reading; it does not count.`,
  ),
  'reading-refused': atOnce(
    reason<'value' | 'unit' | 'title' | 'why'>('note', (d) => `A reading of ${d.value} ${d.unit} for ${d.title} does not count: ${d.why}.`),
  ),
  'trace-refused': atOnce(
    reason<'title' | 'unit' | 'own'>(
      'note',
      (d) => `A trace in ${d.unit} for ${d.title} does not count: its gauge shows ${d.own}. Choose that gauge’s own file.`,
    ),
  ),
  'reading-withdrawn': reason<'value' | 'unit' | 'reason'>('note', (d) => `The reading ${d.value} ${d.unit} was withdrawn: ${d.reason}`),
  'withdrawal-late': reason<'value' | 'unit'>(
    'note',
    (d) => `The reading ${d.value} ${d.unit} was to be withdrawn after its phase had ended; it stands. Only a new attempt can change that.`,
  ),
  'moved-meanwhile': reason<'title' | 'lowest' | 'highest' | 'unit'>(
    'note',
    (d) => `Between start and end of ${d.title} the trace stood between ${d.lowest} and ${d.highest} ${d.unit}.`,
  ),
  temperature: reason<'start' | 'end' | 'unit' | 'title' | 'effect' | 'pressureUnit'>(
    'note',
    (d) =>
      `Pipe ${d.start} to ${d.end} ${d.unit} during ${d.title}: that alone moves the gauge by about ${d.effect} ${d.pressureUnit}. In so short a hold the raw movement decides.`,
  ),
  'own-figure': reason<'label' | 'value' | 'unit' | 'procedure' | 'reference'>(
    'note',
    (d) => `${d.label}: own figure ${d.value} ${d.unit} (procedure ${d.procedure}; ${d.reference}).`,
  ),
  'house-rule': reason<'label' | 'value' | 'unit' | 'procedure' | 'reference'>(
    'note',
    (d) => `${d.label}: house rule ${d.value} ${d.unit} (procedure ${d.procedure}; ${d.reference}).`,
  ),
  simulated: reason('note', () => 'SIMULATED: readings came from a simulated gauge. This is practice, not proof of a real installation.'),
  'over-ceiling': atOnce(
    reason<'value' | 'unit' | 'title' | 'ceiling' | 'limitUnit'>(
      'note',
      (d) =>
        `A start reading of ${d.value} ${d.unit} for ${d.title} is over ${d.ceiling} ${d.limitUnit}, the most that what is connected may see; it does not count. Bleed at once, and look whether anything was harmed.`,
    ),
  ),
  'second-point': atOnce(
    reason<'value' | 'unit' | 'title'>(
      'note',
      (d) => `A second figure (${d.value} ${d.unit}) for the same point of ${d.title} came after the first; the first stands.`,
    ),
  ),
} as const;

// What a simulated fault is said to lead to is among them.
export const find = finder(sayings satisfies Readonly<Record<RunCode, unknown>>);
