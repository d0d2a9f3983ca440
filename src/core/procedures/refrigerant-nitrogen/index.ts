import { hottestSaturation, type Refrigerant, saturation, strengthPressure } from '../../physics/saturation';
import { bad, fromSi, good, type Problem, type Result, referencePressure, refuse } from '../../quantities';
import { gasIn, oneStep, storedAdvice } from '../../sizing/gas-hold';
import type { Gauge } from '../../sizing/gauge';
import { suitsRegulator } from '../../sizing/regulator';
import { optionalIn, quantityIn } from '../answers';
import { type ConclusionIn, cardOf, type IdsOf, type PhaseIn, type WhenIn } from '../card';
import { edge, gaugeFalls, step, stepIf } from '../phase-shapes';
import type { Course, CourseInput, Procedure } from '../procedure';
import { riseItems, riseSteps } from '../stepped-rise';
import { example } from './example';
import { breaches, faults } from './faults';
import { plant } from './plant';
import { asked, figures, parameters } from './questions';
import { sheet } from './sheet';

const card = cardOf({
  prepare: 'check',
  zero: 'zero',
  'zero-high': 'zero',
  'rise-low': 'check',
  'strength-low': 'no-fall',
  'rig-strength-low': ['dry', 'bubbles'],
  'other-low': ['still', 'moved'],
  'sees-low': ['falls', 'stands'],
  'reduce-low': 'check',
  'rise-high': 'check',
  'strength-high': 'no-fall',
  'rig-strength-high': ['dry', 'bubbles'],
  'other-high': ['still', 'moved'],
  'sees-high': ['falls', 'stands'],
  'reduce-high': 'check',
  'tightness-low': 'no-fall',
  'tightness-high': 'no-fall',
  'rig-low': ['dry', 'bubbles'],
  'rig-high': ['dry', 'bubbles'],
  restore: 'check',
  'make-safe': 'check',
});
const { after, conclude, checkPhase, getReady, holdPhase, look, makeSafeList, on, restoreList, soapTheRig, zeroGauge, zeroPhase } = card;
export type Names = typeof card.names;
type Input = CourseInput<IdsOf<typeof figures>, IdsOf<typeof parameters>>;

type Side = 'low' | 'high';
const sidesOf = ({ sides }: Input['answers']): readonly Side[] => (sides === 'both' ? ['low', 'high'] : [sides === 'low' ? 'low' : 'high']);
const titleOf: Record<Side, string> = { low: 'Low side', high: 'High side' };

/** PS of a side, bar gauge, and where it comes from. An estimate never sets a pressure. */
function permitted(answers: Input['answers'], side: Side): Result<{ readonly bar: number; readonly why: string }> {
  const refrigerant = answers.refrigerant as Refrigerant;
  const kelvin = quantityIn(asked, answers, `${side}-design`);
  const celsius = (kelvin - 273.15).toFixed(0);
  const given = optionalIn(asked, answers, `${side}-ps`, 'bar');
  const found = saturation(refrigerant, kelvin);
  const gauge = found.ok ? fromSi(found.value.absolutePa - referencePressure, 'bar') : undefined;
  if (given !== undefined)
    return good({
      bar: given,
      why: `${titleOf[side]}: PS ${given} bar as given${gauge === undefined ? '' : `; ${refrigerant} at ${celsius} °C stands at ${gauge.toFixed(1)} bar gauge${found.ok && found.value.estimate ? ' by a rough estimate, up to 5 % off' : ''}`}.`,
    });
  if (!found.ok) return refuse({ ...found.problem, field: kelvin > hottestSaturation(refrigerant) ? `${side}-ps` : `${side}-design` });
  if (found.value.estimate)
    return bad(
      'blend-nameplate',
      `For ${refrigerant} only an estimate can be worked out (${(gauge ?? 0).toFixed(1)} bar gauge at ${celsius} °C), and an estimate never sets a test pressure. Give PS from the nameplate or a published table.`,
      `${side}-ps`,
    );
  if ((gauge ?? 0) < 0.5)
    return bad(
      'design-cold',
      `At ${celsius} °C ${refrigerant} has hardly any pressure. Check the design temperature, or give PS from the nameplate.`,
      `${side}-design`,
    );
  return good({
    bar: gauge ?? 0,
    why: `${titleOf[side]}: PS ${(gauge ?? 0).toFixed(2)} bar gauge, the saturation pressure of ${refrigerant} at ${celsius} °C. The nameplate governs where it says otherwise.`,
  });
}

interface SidePlan {
  readonly side: Side;
  readonly ps: number;
  readonly strength: number;
  readonly why: string;
}

function sidePlans(answers: Input['answers']): Result<readonly SidePlan[]> {
  const plans: SidePlan[] = [];
  for (const side of sidesOf(answers)) {
    const ps = permitted(answers, side);
    if (!ps.ok) return ps;
    const strength = strengthPressure(ps.value.bar * 1e5, Number(answers.factor));
    if (!strength.ok) return refuse({ ...strength.problem, field: `${side}-ps` });
    // To a tenth of a bar, which is what is set at a regulator.
    plans.push({
      side,
      ps: Math.round(ps.value.bar * 10) / 10,
      strength: Math.round(fromSi(strength.value, 'bar') * 10) / 10,
      why: ps.value.why,
    });
  }
  return good(plans);
}

function course({ answers, figure, gauge, instruments, volume }: Input): Result<Course> {
  const made = sidePlans(answers);
  if (!made.ok) return made;
  const sides = made.value;
  const limitFor = (one: Gauge): string => {
    const step = oneStep(one, 'bar');
    return Number(step) > Number(figure('threshold')) ? step : figure('threshold');
  };
  const threshold = limitFor(gauge);
  const tightSeconds = Number(figure('tightness-seconds'));
  const highest = Math.max(...sides.map(({ strength }) => strength));
  const last = sides[sides.length - 1];
  const regulator = suitsRegulator(optionalIn(asked, answers, 'regulator', 'bar') ?? 0, highest, 'bar');
  if (!regulator.ok) return regulator;
  const both = sides.length > 1;
  const stages: PhaseIn<Names>[] = [];
  // A gauge on each side; on one side alone there is nothing to watch beside it.
  const high = (instruments.high as Gauge | undefined) ?? gauge;
  const roleOf = (side: Side): string | undefined => (both && side === 'high' ? 'high' : undefined);
  const ofSide = (side: Side): string => (both && side === 'high' ? limitFor(high) : threshold);
  let ready: WhenIn<Names> = both ? after('zero-high', 'zeroed') : after('zero', 'zeroed');
  // Both sides' strength first, then both tightness holds (DOMAIN 5.13).
  for (const one of sides) {
    const phases = strengthPhases(one, ready, ofSide(one.side), both, figure, roleOf(one.side));
    if (!phases.ok) return phases;
    stages.push(...phases.value);
    ready = after(`reduce-${one.side}`, 'done');
  }
  // Both at the same time: the second begins as soon as the first has its start.
  stages.push(...sides.map((one) => tightnessPhase(one, ready, ofSide(one.side), figure, sides[0].side, roleOf(one.side))));
  for (const { side } of sides)
    stages.push(soapTheRig(`rig-${side}`, `tightness-${side}`, 'The gauge fell. Soap manifold and hoses first, then every joint.'));

  const phases: readonly PhaseIn<Names>[] = [
    getReady(
      [
        stepIf('recovered', 'Refrigerant recovered, seen on the scale; none is in the part under test'),
        edge('factory', 'Factory-tested parts isolated', { mayNotApply: true, plugged: 'Isolated' }),
        step('open', 'Solenoid valves open, by magnet or power', { mayNotApply: true }),
        edge('rated', 'Relief valves, switches and transducers rated below the test pressure taken off or isolated, ends capped', {
          mayNotApply: true,
          plugged: 'Off or isolated',
        }),
        ...(both ? [edge('apart', 'Low and high side apart: valves between them shut, a gauge on each', { plugged: 'Shut' })] : []),
        edge('manifold', 'Manifold and hoses rated for the test pressure; every other port capped'),
        step('cylinder', 'Cylinder upright and chained; regulator backed off before the cylinder is opened'),
        step('clear', 'Area cleared of people, ventilated; eye protection on'),
      ],
      ['nitrogen', 'energy'],
    ),
    zeroGauge(gauge.readability),
    ...(both
      ? [
          zeroPhase({
            id: 'zero-high',
            title: 'Zero the high side’s gauge',
            instrument: 'high',
            say: 'High side’s gauge open to the air: read it. It must show zero.',
            below: high.readability,
          }),
        ]
      : []),
    ...stages,
    restoreList(
      [
        step('vent', 'Vented outdoors or where it is ventilated, the hose held'),
        step('parts', 'What was taken off is back on; valves as they must be for evacuating'),
        step('evacuate', 'Handed on for evacuation and charging; nothing charged before'),
      ],
      ['nitrogen'],
    ),
    makeSafeList(
      [
        step('vent', 'Vented first, outdoors or where it is ventilated, the hose held'),
        step('label', 'Labelled: not proved, not to be charged'),
      ],
      ['nitrogen'],
    ),
  ];

  return good(
    card.course({
      filled: 'gas',
      unit: 'bar',
      phases,
      highest: highest.toFixed(1),
      limit: figure('coarsest'),
      demand: { rangeAtMost: '4' },
      instruments: both ? { high } : undefined,
      demands: both
        ? { high: { highest: highest.toFixed(1), limit: figure('coarsest'), unit: 'bar' as const, rangeAtMost: '4' } }
        : undefined,
      judgedBy: `tightness-${last.side}`,
      // The volumes of the sides are not told apart: each is taken to hold all of it.
      sees: sides.map(({ side }) => ({
        phase: `tightness-${side}` as const,
        what: both ? titleOf[side].toLowerCase() : 'the pipework',
        contents: gasIn(volume.totalL),
        unit: 'L/h' as const,
        alsoAssumes: both ? ['the valves between the sides let nothing by'] : [],
        longer: { figure: 'tightness-seconds' },
      })),
      boundaries: [
        { id: 'manifold', label: 'Manifold and capped ports', beyond: 'Hoses and manifold' },
        { id: 'factory', label: 'Factory-tested parts', beyond: 'Factory-tested parts' },
        {
          id: 'rated',
          label: 'Where low-rated parts were taken off',
          beyond: 'Relief valves, switches and transducers that were taken off',
        },
        ...sides.map(({ side }) => ({
          id: `service-${side}`,
          label: `${titleOf[side]}: service valve or core, between gauge and pipes`,
          beyond: 'This side’s pipes, which are what is tested: it has to be open',
          provedBy: after(`sees-${side}`, 'falls'),
        })),
        ...(both ? [{ id: 'apart', label: 'Valves between the sides', beyond: 'Nothing: both sides are tested' }] : []),
      ],
      conclusions: conclusionsFor(
        sides.map(({ side }) => side),
        both,
      ),
      derivation: [
        ...sides.map(({ why }) => why),
        ...sides.map(
          ({ side, ps, strength }) =>
            `${titleOf[side]}: strength ${answers.factor} × ${ps} = ${strength.toFixed(1)} bar for ${Math.round(Number(figure('strength-seconds')) / 60)} min, then tightness at ${ps.toFixed(1)} bar for ${Math.round(tightSeconds / 60)} min.`,
        ),
        `A fall counts from ${threshold} bar; none is permitted. Temperatures at both ends decide what a warming pipe hides.`,
      ],
      notTested: [
        'Factory-tested parts that were isolated',
        'What was taken off for the test',
        'Leaks that only a vacuum or the refrigerant itself would find',
      ],
      advice: [
        ...storedAdvice(volume.totalL, highest.toFixed(1), 'bar', volume.largestNominalMm),
        ...(regulator.value.advice === undefined ? [] : [regulator.value.advice]),
      ],
    }),
  );
}

/** One side: up in steps, strength, the other side looked at, down to PS. */
function strengthPhases(
  { side, ps, strength }: SidePlan,
  ready: WhenIn<Names>,
  threshold: string,
  both: boolean,
  figure: Input['figure'],
  of: string | undefined,
): Result<readonly PhaseIn<Names>[]> {
  const steps = riseSteps({
    first: Number(figure('first-step')),
    step: Number(figure('rise-step')),
    target: strength,
    pauseSeconds: Number(figure('pause-seconds')),
    decimals: 1,
  });
  if (!steps.ok) return steps;
  const name = titleOf[side];
  const strengthHigh = (strength + Number(figure('raise-above'))).toFixed(1);
  return good([
    checkPhase({
      id: `rise-${side}`,
      title: `${name}: raise in steps`,
      cautions: ['energy', 'nitrogen'],
      when: ready,
      say: `Raise nitrogen in steps, with a pause at each: at ${figure('first-step')} bar look whether every joint is made. Then shut manifold, regulator and cylinder.`,
      items: riseItems(steps.value, 'bar', {
        prefix: `rise-${side}`,
        atFirst: 'every joint is made, nothing hisses',
        atEach: 'nothing hisses or moves',
        of,
      }),
    }),
    holdPhase({
      id: `strength-${side}`,
      title: `${name}: strength`,
      purpose: 'tightness',
      cautions: ['energy'],
      when: after(`rise-${side}`, 'done'),
      say: 'Manifold, regulator and cylinder shut, everyone clear: read the gauge.',
      band: { low: strength.toFixed(1), high: strengthHigh },
      ceiling: strengthHigh,
      instrument: of,
      seconds: Number(figure('strength-seconds')),
      limit: { kind: 'no-fall', threshold },
      restartFrom: `strength-${side}`,
    }),
    soapTheRig(`rig-strength-${side}`, `strength-${side}`, 'The gauge fell. Soap manifold, hoses and regulator first.'),
    ...(both
      ? [
          look(
            `other-${side}`,
            'Look at the other side',
            'Did the other side’s gauge stand still while this side was under pressure?',
            [
              ['still', 'It stood still'],
              ['moved', 'It moved'],
            ],
            { when: after(`strength-${side}`, 'tight') },
          ),
        ]
      : []),
    look(
      `sees-${side}`,
      `${name}: does its gauge see the pipes?`,
      'Begin to let down at a cap or core far from the gauge, hose held, and watch the gauge. Behind a shut service valve, or a core that is not pressed in, it would stand: it never saw the pipes.',
      gaugeFalls,
      { when: both ? after(`other-${side}`, 'still') : after(`strength-${side}`, 'tight') },
    ),
    checkPhase({
      id: `reduce-${side}`,
      title: `${name}: let down to PS`,
      cautions: ['nitrogen'],
      when: after(`sees-${side}`, 'falls'),
      say: 'Let down slowly to PS or below; then let the gas come to the pipe’s temperature.',
      items: [step('down', `Let down to ${ps.toFixed(1)} bar or below`, { to: (ps - 0.1).toFixed(1), of })],
    }),
  ]);
}

/** One side at PS or below: the tightness hold. */
function tightnessPhase(
  { side, ps, strength }: SidePlan,
  ready: WhenIn<Names>,
  threshold: string,
  figure: Input['figure'],
  first: Side,
  of: string | undefined,
) {
  return holdPhase({
    id: `tightness-${side}`,
    title: `${titleOf[side]}: tightness`,
    purpose: 'tightness',
    when: ready,
    say: 'Read gauge, pipe temperature and barometer now, and again when it is due. Meanwhile put bubbles on every joint.',
    band: { low: (ps * 0.8).toFixed(1), high: ps.toFixed(1) },
    ceiling: ps.toFixed(1),
    rating: strength.toFixed(1),
    instrument: of,
    seconds: Number(figure('tightness-seconds')),
    limit: { kind: 'no-fall', threshold },
    restartFrom: `tightness-${side}`,
    alongside: side === first ? undefined : `tightness-${first}`,
  });
}

function conclusionsFor(sides: readonly Side[], both: boolean): readonly ConclusionIn<Names>[] {
  const any = (when: (side: Side) => WhenIn<Names>): WhenIn<Names> => sides.flatMap(when);
  return [
    {
      when: [...any((side) => after(`rig-strength-${side}`, 'bubbles')), ...any((side) => after(`rig-${side}`, 'bubbles'))],
      verdict: 'inconclusive',
      reason: 'rig-leaks',
    },
    ...sides.flatMap((side): ConclusionIn<Names>[] => [
      { when: after(`rig-strength-${side}`, 'dry'), verdict: 'fail', reason: 'strength-fall', about: `strength-${side}` },
      { when: after(`rig-${side}`, 'dry'), verdict: 'fail', reason: 'fall', about: `tightness-${side}` },
    ]),
    ...(both
      ? [conclude({ when: any((side) => after(`other-${side}`, 'moved')), verdict: 'inconclusive', reason: 'sides-not-apart' })]
      : []),
    { when: any((side) => after(`sees-${side}`, 'stands')), verdict: 'inconclusive', reason: 'gauge-blind' },
    {
      when: [sides.flatMap((side) => [on(`strength-${side}`, 'tight'), on(`tightness-${side}`, 'tight')])],
      verdict: 'pass',
      reason: 'tight-strength',
      about: `tightness-${sides[sides.length - 1]}`,
    },
  ];
}

function outOfScope(answers: Input['answers']): readonly Problem[] {
  const problems: Problem[] = [];
  const refused = (code: string, field: string, message: string) => problems.push({ code, field, message });
  if (answers.gas === 'oxygen') refused('medium-oxygen', 'gas', 'Never oxygen: with oil it explodes. Use oxygen-free dry nitrogen.');
  if (answers.gas === 'air')
    refused('medium-air', 'gas', 'Air brings moisture and oxygen into a refrigerant circuit. Use oxygen-free dry nitrogen.');
  if (answers.gas === 'refrigerant')
    refused('medium-refrigerant', 'gas', 'A refrigerant is no test gas: what leaks is lost and may burn. Use oxygen-free dry nitrogen.');
  if (answers.recovered === 'in it')
    refused('refrigerant-in-it', 'recovered', 'Recover the refrigerant first; nitrogen is never put on top of it for a pressure test.');
  const plans = sidePlans(answers);
  const [low, high] = plans.ok && plans.value.length === 2 ? plans.value : [];
  if (low !== undefined && high !== undefined && low.ps > high.ps)
    refused('sides-swapped', 'low-ps', `The low side’s ${low.ps} bar is above the high side’s ${high.ps}. Correct one of them.`);
  return problems;
}

export const refrigerantNitrogen: Procedure = {
  id: 'refrigerant-nitrogen',
  version: '1',
  title: 'Refrigerant pipework, nitrogen',
  school: 'Strength-then-tightness school',
  purpose:
    'Shows under dry nitrogen that refrigerant pipework bears its strength pressure, and then that it is tight at the pressure that it may see.',
  systemKinds: ['refrigerant'],
  plant,
  medium: 'oxygen-free dry nitrogen',
  volumeFrom: 'pipes',
  volumeDecides: () => false,
  presumed: ['low-ps', 'high-ps', 'factor'] satisfies readonly IdsOf<typeof parameters>[],
  askedEachTime: ['recovered'] satisfies readonly IdsOf<typeof parameters>[],
  roles: [
    {
      role: 'high',
      label: 'High side’s gauge',
      quantity: 'pressure',
      needed: ({ sides }) => sides === 'both',
      apart: true,
    },
  ],
  parameters,
  figures,
  ...sheet,
  outOfScope,
  course,
  phases: card.names,
  example,
  faults,
  breaches,
};
