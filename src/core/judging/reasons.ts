/** How much a reason weighs: `override` beats every gauge, `invalid` beats what the gauge said, `note` changes nothing. */
export type Weight = 'override' | 'invalid' | 'fail' | 'restricted' | 'inconclusive' | 'pass' | 'note';

type Data = Readonly<Record<string, string>>;

interface Reason {
  readonly weight: Weight;
  readonly say: (data: Data) => string;
}

/** The one catalogue of reasons. Codes are stable: records and certificates hold them. */
export const reasons = {
  tight: {
    weight: 'pass',
    say: (d) =>
      `No perceptible fall in ${d.time}: ${d.start} to ${d.end} ${d.unit}; a movement of ${d.threshold} ${d.limitUnit} would have been perceptible.`,
  },
  'permitted-drop': {
    weight: 'pass',
    say: (d) =>
      `With the appliances connected the fall was ${d.fall} ${d.unit}, within the permitted ${d.permitted} ${d.limitUnit}; the pipework alone showed no perceptible fall.`,
  },
  'let-by-steady': { weight: 'note', say: (d) => `The supply valve does not let by: ${d.start} to ${d.end} ${d.unit} in ${d.time}.` },
  'let-by-fall': { weight: 'note', say: (d) => `During the let-by test the gauge fell ${d.fall} ${d.unit}; the test went on, as it may.` },
  'let-by-rise': {
    weight: 'note',
    say: (d) => `During the let-by test the gauge rose ${d.rise} ${d.unit}; perceptible from ${d.threshold} ${d.limitUnit}.`,
  },
  'let-by-confirmed': {
    weight: 'fail',
    say: () => 'The supply valve lets by: bubbles at its seat. The installation was not tested for tightness; a let-by can hide a leak.',
  },
  'let-by-repeated': {
    weight: 'fail',
    say: () =>
      'The gauge rose again on the repeated let-by test: this is treated as let-by. The installation was not tested for tightness.',
  },
  fall: {
    weight: 'fail',
    say: (d) =>
      `The gauge fell ${d.fall} ${d.unit}${d.how ?? ''}; perceptible from ${d.threshold} ${d.limitUnit}, and no fall is permitted. The rig was soaped and is tight.`,
  },
  'fall-over-permitted': {
    weight: 'fail',
    say: (d) => `The gauge fell ${d.fall} ${d.unit}; at most ${d.permitted} ${d.limitUnit} is permitted. The rig was soaped and is tight.`,
  },
  'pipework-fall': {
    weight: 'fail',
    say: (d) =>
      `With the appliances isolated the pipework fell ${d.fall} ${d.unit}; perceptible from ${d.threshold} ${d.limitUnit}, and none is permitted.`,
  },
  'tight-to-stops': {
    weight: 'pass',
    say: (d) =>
      `The piping up to the stops held: ${d.start} to ${d.end} ${d.unit} in ${d.time}. Stage 1 alone says nothing of the drops and controls beyond the stops.`,
  },
  'tight-both-stages': {
    weight: 'pass',
    say: (d) =>
      `Both stages held: the piping up to the stops, and with the stops open ${d.start} to ${d.end} ${d.unit} in ${d.time}; a movement of ${d.threshold} ${d.limitUnit} would have been perceptible.`,
  },
  'controls-fall': {
    weight: 'fail',
    say: (d) =>
      `With the stops open the gauge fell ${d.fall} ${d.unit}${d.how ?? ''}; perceptible from ${d.threshold} ${d.limitUnit}, and no fall is permitted. The piping up to the stops held before, so look beyond the stops.`,
  },
  'pressure-not-reached': {
    weight: 'fail',
    say: () => 'The test pressure could not be reached, or fell as fast as it was fed: look for open ends and unmade joints.',
  },
  'lock-up-over': {
    weight: 'fail',
    say: (d) =>
      `The regulator locked up at ${d.highest} ${d.unit}, over ${d.limit} ${d.limitUnit}: it must be replaced before anything burns here.`,
  },
  'lock-up-low': {
    weight: 'inconclusive',
    say: (d) => `The regulator locked up at only ${d.end} ${d.unit}: check the regulator, then test again.`,
  },
  'no-supply': {
    weight: 'inconclusive',
    say: (d) => `The pressure came to only ${d.end} ${d.unit}: the cylinder is empty or shut, or the regulator is bad. Nothing was proved.`,
  },
  'regulator-creeps': {
    weight: 'fail',
    say: (d) =>
      `The regulator creeps: with nothing burning the pressure rose ${d.rise} ${d.unit} in ${d.time}, from ${d.creep} ${d.limitUnit} on that counts.`,
  },
  'inlet-seeps': {
    weight: 'fail',
    say: (d) =>
      `Gas passes the shut inlet stop: the pressure rose ${d.rise} ${d.unit} in ${d.time}. The stop is the gas supplier’s to repair; nothing behind it was proved, since it can hide a leak.`,
  },
  'valve-passes': {
    weight: 'inconclusive',
    say: (d) =>
      `The shut valve passes: the pressure rose ${d.rise} ${d.unit} in ${d.time}. A passing valve can hide a leak, so nothing was proved.`,
  },
  'valve-feeds': {
    weight: 'fail',
    say: (d) => `The shut valve feeds the system: the pressure rose to ${d.end} ${d.unit}. The valve must be replaced.`,
  },
  'tight-and-shut': {
    weight: 'pass',
    say: (d) => `No perceptible fall in ${d.time} (${d.start} to ${d.end} ${d.unit}), and the shut valve lets nothing by.`,
  },
  'tight-turn-on': {
    weight: 'pass',
    say: (d) =>
      `The regulator locks up and does not creep, the inlet stop does not seep, and in ${d.time} there was no perceptible fall: ${d.start} to ${d.end} ${d.unit}.`,
  },
  'tight-pair': {
    weight: 'pass',
    say: (d) =>
      `Both holds stood still, the last ${d.time} from ${d.start} to ${d.end} ${d.unit}; a movement of ${d.threshold} ${d.limitUnit} would have been perceptible.`,
  },
  'pressure-off': {
    weight: 'inconclusive',
    say: (d) =>
      `${d.title}: ${d.value} ${d.unit} is not in order (${d.bands} ${d.bandUnit}). Check the regulator and the pipe’s size, then test again.`,
  },
  'dial-leak': {
    weight: 'fail',
    say: (d) => `With all outlets closed the meter’s dial moved ${d.turned} turn in ${d.time}: ${d.rate} L/h leak.`,
  },
  'bubbles-seen': { weight: 'fail', say: () => 'Bubbles at a fitting. That fails it, whatever the gauge said.' },
  'rate-unrestricted': {
    weight: 'pass',
    say: (d) =>
      `Leak rate ${d.rate} L/h, no more than ${d.worst} L/h with what the gauge may hide: under ${d.below} L/h it may be used without limit.`,
  },
  'rate-reduced': {
    weight: 'restricted',
    say: (d) =>
      `Leak rate ${d.rate} L/h, perhaps ${d.worst} L/h: from ${d.from} to under ${d.below} L/h it may stay in use, and must be repaired and tested again within ${d.days} days, by ${d.by}.`,
  },
  'rate-shut-down': {
    weight: 'fail',
    say: (d) => `Leak rate ${d.rate} L/h, perhaps ${d.worst} L/h: from ${d.below} L/h on it is shut down at once.`,
  },
  'strength-fall': {
    weight: 'fail',
    say: (d) =>
      `At the strength pressure the gauge fell ${d.fall} ${d.unit}${d.how ?? ''}; none is permitted. Let it down, vent, repair, and start from the beginning.`,
  },
  'meter-moves': {
    weight: 'inconclusive',
    say: () => 'With everything off the meter’s flow indicator moved: something runs. Find and shut it, or the test would blame the pipes.',
  },
  'tight-isolated': {
    weight: 'pass',
    say: (d) =>
      `With the supply shut the pressure stood still: ${d.start} to ${d.end} ${d.unit} in ${d.time}. This was at supply pressure: no pressure was added.`,
  },
  'level-held': { weight: 'pass', say: (d) => `The level stood still for ${d.time}: ${d.start} to ${d.end} ${d.unit}.` },
  'level-fell': {
    weight: 'fail',
    say: (d) => `The level fell ${d.fall} ${d.unit} in ${d.time}; from ${d.threshold} ${d.limitUnit} on that is a leak.`,
  },
  'ball-passes': {
    weight: 'invalid',
    say: () => 'Water passed the test ball: the level says nothing of the drain. Set the ball anew and fill again.',
  },
  'ball-lost': {
    weight: 'inconclusive',
    say: (d) => `The test ball stood at ${d.value} ${d.unit} after the hold: it had let go of its pressure, so nothing was proved.`,
  },
  'still-relaxing': {
    weight: 'inconclusive',
    say: (d) => `After topping up once the pressure fell ${d.fall} ${d.unit} again: let the soft pipe relax longer, then start again.`,
  },
  'falls-thrice': {
    weight: 'fail',
    say: (d) => `Three holds fell, the last by ${d.fall} ${d.unit}, with plugs and fittings checked between: the line leaks.`,
  },
  'sides-not-apart': {
    weight: 'inconclusive',
    say: () =>
      'The other side’s gauge moved too: the two sides are not apart, so each may have seen the wrong pressure. Separate them and start again.',
  },
  'tight-strength': {
    weight: 'pass',
    say: (d) =>
      `Strength and tightness held, the last hold ${d.time} from ${d.start} to ${d.end} ${d.unit}; a movement of ${d.threshold} ${d.limitUnit} would have been perceptible.`,
  },
  'dye-drawn': { weight: 'fail', say: () => 'The dye was drawn in: the line leaks below the water level.' },
  'dye-not-drawn': {
    weight: 'inconclusive',
    say: () =>
      'The dye was not drawn in. That does not clear the line: a leak that opens only under pressure, or lies above the water, cannot show.',
  },
  'make-up-within': {
    weight: 'pass',
    say: (d) =>
      `The make-up was ${d.made} ${d.madeUnit} in ${d.hours} h; ${d.allowed} ${d.unit} is allowed at a mean of ${d.mean} ${d.pressureUnit}. No leak was seen.`,
  },
  'make-up-over': {
    weight: 'fail',
    say: (d) =>
      `The make-up was ${d.made} ${d.madeUnit} in ${d.hours} h; only ${d.allowed} ${d.unit} is allowed at a mean of ${d.mean} ${d.pressureUnit}.`,
  },
  'leak-on-walk': { weight: 'fail', say: () => 'A leak was seen along the line under pressure. That fails it, whatever was measured.' },
  'make-up-unclear': { weight: 'inconclusive', say: (d) => `${d.title}: the make-up cannot be worked out from what was read.` },
  'fell-too-far': {
    weight: 'inconclusive',
    say: (d) =>
      `The pressure fell ${d.deepest} ${d.unit} during ${d.title}. A fall of more than ${d.within} ${d.limitUnit} is pumped back during the hold, unless the engineer’s written criterion says otherwise: repeat, pumping back.`,
  },
  'pumped-unmeasured': {
    weight: 'inconclusive',
    say: (d) =>
      `The pressure rose from ${d.lowest} to ${d.end} ${d.unit} during ${d.title}, so water was pumped in, and none was written down. The make-up would be wrong: repeat, measuring all that is pumped.`,
  },
  'duct-within': {
    weight: 'pass',
    say: (d) => `Leakage at ${d.reference} Pa: ${d.flow} ${d.judgedUnit}${d.interval}; ${d.limit} ${d.unit} is permitted.`,
  },
  'duct-within-rig': {
    weight: 'inconclusive',
    say: (d) =>
      `Leakage at ${d.reference} Pa: ${d.flow} ${d.judgedUnit}${d.interval}, over the permitted ${d.limit} ${d.unit} by no more than the rig’s own leakage of ${d.baseline}. The rig’s share is not subtracted: seal the rig and measure again.`,
  },
  'duct-over': {
    weight: 'fail',
    say: (d) => `Leakage at ${d.reference} Pa: ${d.flow} ${d.judgedUnit}${d.interval}; only ${d.limit} ${d.unit} is permitted.`,
  },
  'duct-unclear': { weight: 'inconclusive', say: (d) => `${d.title}: no leakage can be worked out from these points.` },
  'points-together': {
    weight: 'inconclusive',
    say: (d) => `${d.title}: the pressures lie too close together to prove the set-up. Read them again, one at about half of the other.`,
  },
  'flow-below-range': {
    weight: 'inconclusive',
    say: (d) =>
      `${d.point}: no flow was shown. That is below the ring’s ${d.least} ${d.unit} and not zero: fit a smaller ring, or raise the pressure and let the result be brought back to the reference.`,
  },
  'exponent-normal': {
    weight: 'note',
    say: (d) => `Flow grows with pressure as in a duct: n = ${d.n} (${d.low} to ${d.high}; usual ${d.usual}).`,
  },
  'exponent-suspicious': {
    weight: 'note',
    say: (d) => `n = ${d.n} (${d.low} to ${d.high}) is unusual; usual is ${d.usual}. Check hoses, ring and taped registers.`,
  },
  'exponent-impossible': {
    weight: 'invalid',
    say: (d) =>
      `n = ${d.n} (${d.low} to ${d.high}) is physically impossible: flow through leaks grows with the 0.5th to 1st power of pressure. The set-up is wrong: check the hoses, the ring and the taped registers.`,
  },
  'leak-rate': {
    weight: 'note',
    say: (d) => `${d.title}: ${d.rate} L/h, and no more than ${d.worst} L/h with the gauge’s own step.`,
  },
  'no-rate': { weight: 'inconclusive', say: (d) => `${d.title}: no leak rate can be worked out from what was read.` },
  'figure-read': { weight: 'note', say: (d) => `${d.title}, ${d.point}: ${d.value} ${d.unit} (${d.bands} ${d.bandUnit}).` },
  'hold-fed': {
    weight: 'note',
    say: (d) => `${d.title}: the pressure rose ${d.rise} ${d.unit}, to ${d.feedsTo} ${d.limitUnit} or more: most of the way to lock-up.`,
  },
  'rise-noted': {
    weight: 'note',
    say: (d) => `${d.title}: the pressure rose ${d.rise} ${d.unit}, less than ${d.noted} ${d.limitUnit}, as gas that warms does.`,
  },
  'air-within': { weight: 'note', say: (d) => `${d.title}: trapped air ${d.air} % by volume, at most ${d.most} %.` },
  'air-too-much': {
    weight: 'inconclusive',
    say: (d) => `${d.title}: trapped air ${d.air} % by volume, over ${d.most} %. It would hide a leak: bleed again and repeat.`,
  },
  'air-unclear': { weight: 'inconclusive', say: (d) => `${d.title}: the trapped air cannot be worked out: ${d.why}` },
  'level-within': {
    weight: 'note',
    say: (d) => `${d.title}: at most ${d.highest} ${d.unit}; up to ${d.limit} ${d.limitUnit} is in order.`,
  },
  'level-over': { weight: 'note', say: (d) => `${d.title}: ${d.highest} ${d.unit}, over the ${d.limit} ${d.limitUnit} that is in order.` },
  'dial-still': { weight: 'note', say: (d) => `${d.title}: the dial stood still (${d.turned} turn; seen from ${d.threshold}).` },
  'dial-moved': { weight: 'note', say: (d) => `${d.title}: the dial moved ${d.turned} turn, ${d.rate} L/h.` },
  corrected: {
    weight: 'note',
    say: (d) =>
      `${d.title}: raw fall ${d.fall} ${d.unit}, corrected ${d.corrected} ${d.unit} (pipe ${d.conditions}; give or take ${d.doubt}).`,
  },
  'corrected-fall': {
    weight: 'note',
    say: (d) =>
      `${d.title}: the gauge fell only ${d.fall} ${d.unit}, but the pipe’s temperature hides a fall: corrected it is ${d.corrected} ${d.unit} (${d.conditions}).`,
  },
  'correction-unsure': {
    weight: 'inconclusive',
    say: (d) =>
      `${d.title}: raw movement ${d.fall} ${d.unit}, corrected ${d.corrected} ${d.unit}. The correction may be off by ${d.doubt}, more than the ${d.threshold} ${d.limitUnit} that must be told: wait for a steady temperature and repeat.`,
  },
  'conditions-unread': {
    weight: 'inconclusive',
    say: (d) => `${d.title} is long enough to need ${d.missing}; without that a leak and a change of weather cannot be told apart.`,
  },
  'over-ceiling': {
    weight: 'note',
    say: (d) =>
      `A start reading of ${d.value} ${d.unit} for ${d.title} is over ${d.ceiling} ${d.limitUnit}, the most that what is connected may see; it does not count. Bleed at once, and look whether anything was harmed.`,
  },
  'second-point': {
    weight: 'note',
    say: (d) => `A second figure (${d.value} ${d.unit}) for the same point of ${d.title} came after the first; the first stands.`,
  },
  'rig-leaks': { weight: 'inconclusive', say: () => 'The rig itself leaked: mend it and repeat. This says nothing about the system.' },
  'hold-rise': {
    weight: 'inconclusive',
    say: (d) =>
      `The gauge rose ${d.rise} ${d.unit} during ${d.title}. Likely cause: ${d.cause}. ${d.again ?? 'Repeat from the let-by test.'}`,
  },
  'late-fall': {
    weight: 'inconclusive',
    say: (d) =>
      `The end reading of ${d.title} came ${d.late} s late and shows a fall of ${d.fall} ${d.unit}; in the right time it may have been less. Repeat the hold.`,
  },
  'stopped-hold': { weight: 'inconclusive', say: (d) => `${d.title} was stopped early (${d.reason}) without a fall over the limit.` },
  'stopped-fall': {
    weight: 'note',
    say: (d) => `${d.title} was stopped early: the fall of ${d.fall} ${d.unit} was already over the limit.`,
  },
  stopped: { weight: 'inconclusive', say: (d) => `The test was ended before it was complete: ${d.reason}` },
  'no-proof': { weight: 'inconclusive', say: () => 'Nothing that was recorded proves tightness or a leak.' },
  smell: { weight: 'override', say: () => 'Gas was smelt. That overrides any gauge.' },
  'leak-seen': {
    weight: 'override',
    say: (d) => `A leak was seen on the system: ${d.text || 'no place given'}. That overrides any gauge.`,
  },
  disturbed: { weight: 'inconclusive', say: (d) => `${d.title} was disturbed (${d.what}); a disturbed hold does not count. Restart it.` },
  'disturbance-waived': { weight: 'note', say: (d) => `A disturbance (${d.what}) was set aside: ${d.reason}` },
  'waiver-refused': { weight: 'note', say: (d) => `${d.what} can never be set aside; the waiver has no effect.` },
  'rig-leak-seen': { weight: 'inconclusive', say: (d) => `Bubbles on the rig during ${d.title}: mend the rig and restart.` },
  'clock-jump': {
    weight: 'inconclusive',
    say: (d) => `The device’s clock jumped by ${d.seconds} s during ${d.title}, so its time is not proved. Restart it.`,
  },
  gap: { weight: 'note', say: (d) => `The device slept for ${d.seconds} s during ${d.title}; the wall clock went on.` },
  'gauge-overdue': { weight: 'invalid', say: (d) => `The gauge’s calibration was due on ${d.due}; the test was on ${d.on}.` },
  'gauge-coarse': {
    weight: 'inconclusive',
    say: (d) =>
      `The gauge shows steps of ${d.readability} ${d.unit}; a movement of ${d.limit} ${d.limitUnit} must be seen. It cannot prove tightness.`,
  },
  'gauge-range': {
    weight: 'inconclusive',
    say: (d) => `The gauge’s range ends at ${d.high} ${d.unit}; the test needs ${d.needed} ${d.neededUnit}.`,
  },
  'gauge-range-wide': {
    weight: 'inconclusive',
    say: (d) =>
      `The gauge’s range of ${d.high} ${d.unit} is more than ${d.times} times the test pressure of ${d.needed} ${d.neededUnit}; it is read too badly there to prove tightness.`,
  },
  'gauge-range-short': {
    weight: 'inconclusive',
    say: (d) =>
      `The gauge’s range of ${d.high} ${d.unit} is less than ${d.leastTimes} times the test pressure of ${d.needed} ${d.neededUnit}; so near its end it proves nothing.`,
  },
  'gauge-certificate-old': {
    weight: 'invalid',
    say: (d) => `The gauge was last calibrated on ${d.last}; the test on ${d.on} wants a certificate of at most ${d.years} years.`,
  },
  'gauge-coarser-choice': { weight: 'note', say: () => 'A one-decimal gauge was used; it is the coarser choice.' },
  'not-zeroed': {
    weight: 'invalid',
    say: (d) => `Disconnected, the gauge showed ${d.value} ${d.unit} and not zero; nothing read with it counts.`,
  },
  'boundary-unproved': { weight: 'inconclusive', say: (d) => `${d.label}: not proved. An unproved boundary cannot give a pass.` },
  'second-start': {
    weight: 'note',
    say: (d) => `A second start reading (${d.value} ${d.unit}) for ${d.title} came after the phase had started; the first stands.`,
  },
  'second-end': {
    weight: 'note',
    say: (d) => `A second end reading (${d.value} ${d.unit}) for ${d.title} came after the phase had ended; the first stands.`,
  },
  'early-end': {
    weight: 'note',
    say: (d) =>
      `An end reading (${d.value} ${d.unit}) for ${d.title} was taken ${d.early} s before it was due; it does not count as an end.`,
  },
  'start-out-of-band': {
    weight: 'note',
    say: (d) =>
      `A start reading of ${d.value} ${d.unit} for ${d.title} is outside ${d.low} to ${d.high} ${d.limitUnit}; it does not count.`,
  },
  'start-too-soon': {
    weight: 'note',
    say: (d) => `A start reading for ${d.title} was taken before the phase before it was over; it does not count.`,
  },
  'reading-order': {
    weight: 'note',
    say: (d) => `A reading of ${d.value} ${d.unit} for ${d.title} was taken before the phase’s start reading; it does not count.`,
  },
  'reading-refused': { weight: 'note', say: (d) => `A reading of ${d.value} ${d.unit} for ${d.title} does not count: ${d.why}.` },
  'reading-withdrawn': { weight: 'note', say: (d) => `The reading ${d.value} ${d.unit} was withdrawn: ${d.reason}` },
  'withdrawal-late': {
    weight: 'note',
    say: (d) =>
      `The reading ${d.value} ${d.unit} was to be withdrawn after its phase had ended; it stands. Only a new attempt can change that.`,
  },
  interpolated: {
    weight: 'note',
    say: (d) => `The fall of ${d.title} at its due time, ${d.fall} ${d.unit}, comes from the readings on either side of it.`,
  },
  'moved-meanwhile': {
    weight: 'note',
    say: (d) => `Between start and end of ${d.title} the trace stood between ${d.lowest} and ${d.highest} ${d.unit}.`,
  },
  temperature: {
    weight: 'note',
    say: (d) =>
      `Pipe ${d.start} to ${d.end} ${d.unit} during ${d.title}: that alone moves the gauge by about ${d.effect} ${d.pressureUnit}. In so short a hold the raw movement decides.`,
  },
  'own-figure': { weight: 'note', say: (d) => `${d.label}: own figure ${d.value} ${d.unit} (procedure ${d.procedure}; ${d.reference}).` },
  'house-rule': { weight: 'note', say: (d) => `${d.label}: house rule ${d.value} ${d.unit} (procedure ${d.procedure}; ${d.reference}).` },
  simulated: {
    weight: 'note',
    say: () => 'SIMULATED: readings came from a simulated gauge. This is practice, not proof of a real installation.',
  },
} as const satisfies Record<string, Reason>;

export type ReasonCode = keyof typeof reasons;

export interface Finding {
  readonly code: ReasonCode;
  readonly weight: Weight;
  readonly sentence: string;
  readonly data: Data;
  readonly phase?: string;
  /** The sum behind it, opened on request. */
  readonly working?: readonly string[];
}

export const isReason = (code: string): code is ReasonCode => Object.hasOwn(reasons, code);

export function finding(code: ReasonCode, data: Data = {}, phase?: string, working?: readonly string[]): Finding {
  const reason: Reason = reasons[code];
  return {
    code,
    weight: reason.weight,
    sentence: reason.say(data),
    data,
    ...(phase === undefined ? {} : { phase }),
    ...(working === undefined ? {} : { working }),
  };
}
