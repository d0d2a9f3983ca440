import { type Data, finder, reason } from '../limits';

/** What a test comes to, in its trade's words. Codes are stable: plans and records hold them. */
export const conclusions = {
  'pressure-not-reached': reason(
    'fail',
    () => 'The test pressure could not be reached, or fell as fast as it was fed: look for open ends and unmade joints.',
  ),
  tight: reason<'time' | 'start' | 'end' | 'unit' | 'threshold' | 'limitUnit'>(
    'pass',
    (d) =>
      `No perceptible fall in ${d.time}: ${d.start} to ${d.end} ${d.unit}; a movement of ${d.threshold} ${d.limitUnit} would have been perceptible.`,
  ),
  'permitted-drop': reason<'fall' | 'unit' | 'permitted' | 'limitUnit'>(
    'pass',
    (d) =>
      `With the appliances connected the fall was ${d.fall} ${d.unit}, within the permitted ${d.permitted} ${d.limitUnit}; the pipework alone showed no perceptible fall.`,
  ),
  'let-by-confirmed': reason(
    'fail',
    () => 'The supply valve lets by: bubbles at its seat. The installation was not tested for tightness; a let-by can hide a leak.',
  ),
  'let-by-repeated': reason(
    'fail',
    () => 'The gauge rose again on the repeated let-by test: this is treated as let-by. The installation was not tested for tightness.',
  ),
  fall: reason<'fall' | 'unit' | 'how' | 'threshold' | 'limitUnit'>(
    'fail',
    (d) =>
      `The gauge fell ${d.fall} ${d.unit}${d.how ?? ''}; perceptible from ${d.threshold} ${d.limitUnit}, and no fall is permitted. The rig was soaped and is tight.`,
  ),
  'fall-over-permitted': reason<'fall' | 'unit' | 'permitted' | 'limitUnit'>(
    'fail',
    (d) => `The gauge fell ${d.fall} ${d.unit}; at most ${d.permitted} ${d.limitUnit} is permitted. The rig was soaped and is tight.`,
  ),
  'pipework-fall': reason<'fall' | 'unit' | 'threshold' | 'limitUnit'>(
    'fail',
    (d) =>
      `With the appliances isolated the pipework fell ${d.fall} ${d.unit}; perceptible from ${d.threshold} ${d.limitUnit}, and none is permitted.`,
  ),
  'tight-to-stops': reason<'start' | 'end' | 'unit' | 'time'>(
    'pass',
    (d) =>
      `The piping up to the stops held: ${d.start} to ${d.end} ${d.unit} in ${d.time}. Stage 1 alone says nothing of the drops and controls beyond the stops.`,
  ),
  'tight-both-stages': reason<'start' | 'end' | 'unit' | 'time' | 'threshold' | 'limitUnit'>(
    'pass',
    (d) =>
      `Both stages held: the piping up to the stops, and with the stops open ${d.start} to ${d.end} ${d.unit} in ${d.time}; a movement of ${d.threshold} ${d.limitUnit} would have been perceptible.`,
  ),
  'controls-fall': reason<'fall' | 'unit' | 'how' | 'threshold' | 'limitUnit'>(
    'fail',
    (d) =>
      `With the stops open the gauge fell ${d.fall} ${d.unit}${d.how ?? ''}; perceptible from ${d.threshold} ${d.limitUnit}, and no fall is permitted. The piping up to the stops held before, so look beyond the stops.`,
  ),
  'lock-up-over': reason<'highest' | 'unit' | 'limit' | 'limitUnit'>(
    'fail',
    (d) =>
      `The regulator locked up at ${d.highest} ${d.unit}, over ${d.limit} ${d.limitUnit}: it must be replaced before anything burns here.`,
  ),
  'lock-up-low': reason<'end' | 'unit'>(
    'inconclusive',
    (d) => `The regulator locked up at only ${d.end} ${d.unit}: check the regulator, then test again.`,
  ),
  'lock-up-off': reason<'end' | 'unit'>(
    'inconclusive',
    (d) =>
      `The regulator locked up at ${d.end} ${d.unit}, above what this supply is expected to give: look at the regulator and the supply, then test again.`,
  ),
  'no-supply': reason<'end' | 'unit'>(
    'inconclusive',
    (d) => `The pressure came to only ${d.end} ${d.unit}: the cylinder is empty or shut, or the regulator is bad. Nothing was proved.`,
  ),
  'regulator-creeps': reason<'rise' | 'unit' | 'time' | 'creep' | 'limitUnit'>(
    'fail',
    (d) =>
      `The regulator creeps: with nothing burning the pressure rose ${d.rise} ${d.unit} in ${d.time}, from ${d.creep} ${d.limitUnit} on that counts.`,
  ),
  'inlet-seeps': reason<'rise' | 'unit' | 'time'>(
    'fail',
    (d) =>
      `Gas passes the shut inlet stop: the pressure rose ${d.rise} ${d.unit} in ${d.time}. The stop is the gas supplier’s to repair; nothing behind it was proved, since it can hide a leak.`,
  ),
  'valve-passes': reason<'rise' | 'unit' | 'time'>(
    'inconclusive',
    (d) =>
      `The shut valve passes: the pressure rose ${d.rise} ${d.unit} in ${d.time}. A passing valve can hide a leak, so nothing was proved.`,
  ),
  'valve-feeds': reason<'end' | 'unit'>(
    'fail',
    (d) => `The shut valve feeds the system: the pressure rose to ${d.end} ${d.unit}. The valve must be replaced.`,
  ),
  'tight-and-shut': reason<'time' | 'start' | 'end' | 'unit'>(
    'pass',
    (d) => `No perceptible fall in ${d.time} (${d.start} to ${d.end} ${d.unit}), and the shut valve lets nothing by.`,
  ),
  'tight-turn-on': reason<'time' | 'start' | 'end' | 'unit'>(
    'pass',
    (d) =>
      `The regulator locks up and does not creep, the inlet stop does not seep, and in ${d.time} there was no perceptible fall: ${d.start} to ${d.end} ${d.unit}.`,
  ),
  'tight-pair': reason<'time' | 'start' | 'end' | 'unit' | 'threshold' | 'limitUnit'>(
    'pass',
    (d) =>
      `Both holds stood still, the last ${d.time} from ${d.start} to ${d.end} ${d.unit}; a movement of ${d.threshold} ${d.limitUnit} would have been perceptible.`,
  ),
  'pressure-off': reason<'title' | 'value' | 'unit' | 'bands' | 'bandUnit'>(
    'inconclusive',
    (d) =>
      `${d.title}: ${d.value} ${d.unit} is not in order (${d.bands} ${d.bandUnit}). Check the regulator and the pipe’s size, then test again.`,
  ),
  'dial-leak': reason<'turned' | 'time' | 'rate'>(
    'fail',
    (d) => `With all outlets closed the meter’s dial moved ${d.turned} turn in ${d.time}: ${d.rate} L/h leak.`,
  ),
  'bubbles-seen': reason('fail', () => 'Bubbles at a fitting. That fails it, whatever the gauge said.'),
  'rate-unrestricted': reason<'rate' | 'worst' | 'below' | 'said'>(
    'pass',
    (d) =>
      `Leak rate ${d.said ?? d.rate} L/h, no more than ${d.worst} L/h with what the gauge may hide: under ${d.below} L/h it may be used without limit.`,
  ),
  'rate-reduced': reason<'rate' | 'worst' | 'from' | 'below' | 'days' | 'by'>(
    'restricted',
    (d) =>
      `Leak rate ${d.rate} L/h, perhaps ${d.worst} L/h: from ${d.from} to under ${d.below} L/h it may stay in use, and must be repaired and tested again within ${d.days} days, by ${d.by}.`,
  ),
  'rate-shut-down': reason<'rate' | 'worst' | 'below'>(
    'fail',
    (d) => `Leak rate ${d.rate} L/h, perhaps ${d.worst} L/h: from ${d.below} L/h on it is shut down at once.`,
  ),
  'strength-fall': reason<'fall' | 'unit' | 'how'>(
    'fail',
    (d) =>
      `At the strength pressure the gauge fell ${d.fall} ${d.unit}${d.how ?? ''}; none is permitted. Let it down, vent, repair, and start from the beginning.`,
  ),
  'gauge-blind': reason(
    'inconclusive',
    () =>
      'The gauge stood while the far side was opened: a shut tap or a check valve lies between, and it saw only its own rig. Open it, and test again.',
  ),
  'meter-moves': reason(
    'inconclusive',
    () => 'With everything off the meter’s flow indicator moved: something runs. Find and shut it, or the test would blame the pipes.',
  ),
  'tight-isolated': reason<'start' | 'end' | 'unit' | 'time'>(
    'pass',
    (d) =>
      `With the supply shut the pressure stood still: ${d.start} to ${d.end} ${d.unit} in ${d.time}. This was at supply pressure: no pressure was added.`,
  ),
  'level-held': reason<'time' | 'start' | 'end' | 'unit'>(
    'pass',
    (d) => `The level stood still for ${d.time}: ${d.start} to ${d.end} ${d.unit}.`,
  ),
  'level-fell': reason<'fall' | 'unit' | 'time' | 'threshold' | 'limitUnit'>(
    'fail',
    (d) => `The level fell ${d.fall} ${d.unit} in ${d.time}; from ${d.threshold} ${d.limitUnit} on that is a leak.`,
  ),
  'ball-passes': reason(
    'invalid',
    () => 'Water passed the test ball: the level says nothing of the drain. Set the ball anew and fill again.',
  ),
  'ball-lost': reason<'value' | 'unit'>(
    'inconclusive',
    (d) => `The test ball stood at ${d.value} ${d.unit} after the hold: it had let go of its pressure, so nothing was proved.`,
  ),
  'still-relaxing': reason<'fall' | 'unit'>(
    'inconclusive',
    (d) => `After topping up once the pressure fell ${d.fall} ${d.unit} again: let the soft pipe relax longer, then start again.`,
  ),
  'falls-thrice': reason<'fall' | 'unit'>(
    'fail',
    (d) => `Three holds fell, the last by ${d.fall} ${d.unit}, with plugs and fittings checked between: the line leaks.`,
  ),
  'sides-not-apart': reason(
    'inconclusive',
    () =>
      'The other side’s gauge moved too: the two sides are not apart, so each may have seen the wrong pressure. Separate them and start again.',
  ),
  'tight-strength': reason<'time' | 'start' | 'end' | 'unit' | 'threshold' | 'limitUnit'>(
    'pass',
    (d) =>
      `Strength and tightness held, the last hold ${d.time} from ${d.start} to ${d.end} ${d.unit}; a movement of ${d.threshold} ${d.limitUnit} would have been perceptible.`,
  ),
  'dye-drawn': reason('fail', () => 'The dye was drawn in: the line leaks below the water level.'),
  'dye-not-drawn': reason(
    'inconclusive',
    () =>
      'The dye was not drawn in. That does not clear the line: a leak that opens only under pressure, or lies above the water, cannot show.',
  ),
  'make-up-within': reason<'made' | 'madeUnit' | 'hours' | 'allowed' | 'unit' | 'mean' | 'pressureUnit'>(
    'pass',
    (d) =>
      `The make-up was ${d.made} ${d.madeUnit} in ${d.hours} h; ${d.allowed} ${d.unit} is allowed at a mean of ${d.mean} ${d.pressureUnit}. No leak was seen.`,
  ),
  'make-up-over': reason<'made' | 'madeUnit' | 'hours' | 'allowed' | 'unit' | 'mean' | 'pressureUnit'>(
    'fail',
    (d) =>
      `The make-up was ${d.made} ${d.madeUnit} in ${d.hours} h; only ${d.allowed} ${d.unit} is allowed at a mean of ${d.mean} ${d.pressureUnit}.`,
  ),
  'leak-on-walk': reason('fail', () => 'A leak was seen along the line under pressure. That fails it, whatever was measured.'),
  'duct-within': reason<'reference' | 'flow' | 'judgedUnit' | 'interval' | 'limit' | 'unit'>(
    'pass',
    (d) => `Leakage at ${d.reference} Pa: ${d.flow} ${d.judgedUnit}${d.interval}; ${d.limit} ${d.unit} is permitted.`,
  ),
  'duct-within-rig': reason<'reference' | 'flow' | 'judgedUnit' | 'interval' | 'limit' | 'unit' | 'baseline'>(
    'inconclusive',
    (d) =>
      `Leakage at ${d.reference} Pa: ${d.flow} ${d.judgedUnit}${d.interval}, over the permitted ${d.limit} ${d.unit} by no more than the rig’s own leakage of ${d.baseline}. The rig’s share is not subtracted: seal the rig and measure again.`,
  ),
  'duct-over': reason<'reference' | 'flow' | 'judgedUnit' | 'interval' | 'limit' | 'unit'>(
    'fail',
    (d) => `Leakage at ${d.reference} Pa: ${d.flow} ${d.judgedUnit}${d.interval}; only ${d.limit} ${d.unit} is permitted.`,
  ),
  'rig-held': reason<'time' | 'start' | 'end' | 'unit' | 'threshold' | 'limitUnit'>(
    'pass',
    (d) =>
      `The rig held for ${d.time}: ${d.start} to ${d.end} ${d.unit}; a movement of ${d.threshold} ${d.limitUnit} would have been perceptible. It is soaped in a test all the same.`,
  ),
  'rig-fell': reason<'fall' | 'unit' | 'time'>(
    'fail',
    (d) => `The rig by itself fell ${d.fall} ${d.unit} in ${d.time}: mend it and check it again before any test.`,
  ),
  'cap-leaks': reason('inconclusive', () => 'The cap at the far end leaked: that says nothing of the rig. Seal it anew and check again.'),
  'rig-measured': reason('pass', () => 'What the fan and its connector leak by themselves was measured and is written down.'),
  'rig-shows-nothing': reason(
    'inconclusive',
    () => 'The ring showed no flow, which is no zero: measure at a higher pressure, or with a smaller ring.',
  ),
  'rig-leaks': reason('inconclusive', () => 'The rig itself leaked: mend it and repeat. This says nothing about the system.'),
} as const;

export type ConclusionCode = keyof typeof conclusions;
export const isConclusion = (code: string): code is ConclusionCode => Object.hasOwn(conclusions, code);

const find = finder(conclusions);
/** A plan names its conclusions as text, checked when the procedure is tested; the figures are those of the phase that it speaks of. */
export const concluded = (code: ConclusionCode, data: Data, phase?: string) => find(code, data as never, phase);
