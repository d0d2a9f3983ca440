import { makeUpPoints } from '../../limits';
import { endThrust } from '../../physics/end-thrust';
import { mainAllowance, mainMaterials } from '../../physics/main-allowance';
import { fromSi, good, type LengthUnit, type Problem, type Result, toSi, type VolumeUnit } from '../../quantities';
import { bandUnderRating, overRating, parseComponents, seenBy, weakest } from '../../sizing/components';
import { thrustWords } from '../../sizing/gas-hold';
import type { Instrument } from '../../sizing/gauge';
import { mainIn } from '../../sizing/water-hold';
import { answerLabel, quantityIn, typedIn } from '../answers';
import { type Asked, cardOf, type Figures, type IdsOf, type PhaseIn } from '../card';
import { edge, gaugeFalls, step } from '../phase-shapes';
import { type Advice, adviceText, type Course, type CourseInput, type Procedure } from '../procedure';
import { askChoice, askQuantity, askText } from '../questions';
import { example } from './example';
import { breaches, faults } from './faults';
import { plant } from './plant';
import { sheet } from './sheet';

const card = cardOf({
  prepare: 'check',
  zero: 'zero',
  pump: 'check',
  hold: 'keep',
  walk: ['dry', 'leak'],
  'make-up': 'make-up-at-most',
  sees: ['falls', 'stands'],
  restore: 'check',
  'make-safe': 'check',
});
const { after, checkPhase, holdPhase, look, measurePhase, observePhase, zeroPhase } = card;
export type Names = typeof card.names;
type Input = CourseInput<IdsOf<typeof figures>, IdsOf<typeof parameters>>;

const figures = [
  { id: 'keep-within', label: 'A fall is pumped back beyond', value: '5', unit: 'psi', stricter: 'lower', bound: '1' },
  { id: 'raise-above', label: 'Raised above the test pressure by at most', value: '5', unit: 'psi', stricter: 'lower', bound: '1' },
] as const satisfies Figures;

/** Water main, judged by its make-up (DOMAIN 3.8, 5.12). */

const parameters = [
  {
    kind: 'choice',
    id: 'material',
    label: 'Main',
    help: 'PE creeps: it takes up water without leaking, and needs its own method.',
    usual: 'iron',
    options: [...mainMaterials, 'PE'].map((value) => ({ value, label: value === 'iron' ? 'Iron' : value === 'steel' ? 'Steel' : value })),
  },
  askQuantity('length', 'Length', 'length', 'ft', '1320', ['3', '300000'], 'Of the section between the valves.'),
  askQuantity('diameter', 'Nominal diameter', 'length', 'in', '8', ['1', '150'], 'Of the main.'),
  askQuantity('test-pressure', 'Test pressure at the gauge', 'pressure', 'psi', '200', ['20', '1000'], 'As the engineer gives it.'),
  askQuantity('hours', 'Hold', 'time', 'h', '2', ['1', '24'], 'One to two hours is usual.'),
  askChoice(
    'large-fall',
    'A larger fall during the hold',
    [
      ['pump back', 'Is pumped back, and measured'],
      ['engineer', 'Is taken by the engineer’s written criterion'],
    ],
    'A fall of more than 5 psi is pumped back during the hold, unless the engineer has written otherwise.',
  ),
  askText('criterion', 'The engineer’s criterion', 'Letter, date and what it says.', true, {
    askedFor: { answer: 'large-fall', is: ['engineer'] },
  }),
  {
    kind: 'components',
    id: 'components',
    label: 'What the pressure reaches',
    help: 'A line each: name, rating, height above the gauge. Hydrant 16bar -2m',
    usual: '',
  },
] as const satisfies Asked;
const asked = { parameters };
const inUnit = (
  answers: Input['answers'],
  id: 'test-pressure' | 'length' | 'diameter' | 'hours' | 'large-fall',
  unit: 'psi' | 'm' | 's',
): number => fromSi(quantityIn(asked, answers, id), unit);

function course({ answers, figure, gauge, instruments }: Input): Result<Course> {
  const vessel = instruments.vessel as Instrument<VolumeUnit>;
  const testPsi = inUnit(answers, 'test-pressure', 'psi').toFixed(1);
  const [length, diameter] = [typedIn(asked, answers, 'length'), typedIn(asked, answers, 'diameter')];
  const [lengthM, diameterM] = [inUnit(answers, 'length', 'm'), inUnit(answers, 'diameter', 'm')];
  const seconds = Math.round(inUnit(answers, 'hours', 's'));
  const material = mainMaterials.find((one) => one === answers.material) ?? 'iron';
  const within = figure('keep-within');
  const testPa = toSi(Number(testPsi), 'psi');
  const allowance = mainAllowance({ material, lengthM, diameterM, meanPa: testPa });
  if (!allowance.ok) return allowance;
  const { components } = parseComponents(answers.components ?? '');
  const band = bandUnderRating(Number(testPsi), Number(figure('raise-above')), Number.POSITIVE_INFINITY, components, 'water', 'psi', 1);
  const { high } = band;
  const least = weakest(components, testPa, 'water');
  const thrust = endThrust(testPa, diameterM);

  const phases: readonly PhaseIn<Names>[] = [
    checkPhase({
      id: 'prepare',
      title: 'Fill and get ready',
      cautions: ['thrust', 'backflow'],
      say: 'Fill slowly from the low end until all air is out, then go through the list.',
      items: [
        step('air', 'Filled slowly; air let out at every high point until water runs clear of it'),
        step('blocks', 'Thrust blocks set and cured, clips and restraints on every bend, tee and end'),
        edge('ends', 'End caps and blank flanges bolted', { mayNotApply: true, plugged: 'Bolted' }),
        edge('valves', 'Section valves shut; what lies beyond is open to the air or watched', { plugged: 'Shut' }),
        step('tank', 'Pump fed from a tank, never from a pressurised main'),
        step('clear', 'Trench and ends clear of people while the pressure is raised'),
      ],
    }),
    zeroPhase({ id: 'zero', title: 'Zero the gauge', say: 'Gauge open to the air: read it. It must show zero.', below: gauge.readability }),
    checkPhase({
      id: 'pump',
      title: 'At the pump',
      cautions: ['thrust'],
      say: 'Raise the pressure, a step at a time, in this order.',
      items: [
        step('tank-full', 'Tank full'),
        step('hydrant', 'Hydrant open'),
        step('unloaded', 'Pump unloaded'),
        step('started', 'Pump started'),
        step('relief', 'Relief shut'),
        step('loaded', 'Pump loaded'),
        step('raised', `Raised slowly to ${testPsi} psi, the test pressure`, { to: testPsi }),
        step('shut', 'Hydrant shut'),
        step('stopped', 'Pump stopped'),
      ],
    }),
    holdPhase({
      id: 'hold',
      title: 'Hold',
      purpose: 'tightness',
      cautions: ['thrust'],
      band: { low: band.low, high: band.high },
      ceiling: components.length === 0 ? undefined : band.ceiling,
      seconds,
      limit: answers['large-fall'] === 'engineer' ? { kind: 'keep' } : { kind: 'keep', within },
      restartFrom: 'hold',
      say:
        answers['large-fall'] === 'engineer'
          ? 'Raise slowly into the band, isolate the pump, and read the gauge. At the end read the low pressure.'
          : `Raise slowly into the band, isolate the pump, and read the gauge. Before it has fallen ${within} psi pump it back, and note the water.`,
    }),
    observePhase({
      id: 'walk',
      title: 'Walk the line',
      say: 'Walk the whole line under pressure: joints, hydrants, valves, caps. A visible leak fails the main, whatever the make-up.',
      when: after('hold', 'kept'),
      options: [
        { id: 'dry', label: 'No leak seen', hoped: true },
        { id: 'leak', label: 'A leak was seen', hoped: false },
      ],
    }),
    measurePhase({
      id: 'make-up',
      title: 'Make-up',
      when: after('walk', 'dry', 'leak'),
      say: 'Pump back to the start pressure and read it; then draw down to the low pressure into the vessel: read the pressure and the water drawn.',
      fields: [
        { quantity: 'pressure', label: 'Pressure' },
        { quantity: 'volume', label: 'Water drawn', instrument: 'vessel' },
      ],
      points: [
        { id: makeUpPoints.back, label: 'Pumped back to the start pressure', reads: ['pressure'] },
        { id: makeUpPoints.drawn, label: 'Drawn down to the low pressure' },
      ],
      limit: {
        kind: 'make-up-at-most',
        hold: 'hold',
        material,
        length: length.value,
        lengthUnit: length.unit as LengthUnit,
        diameter: diameter.value,
        diameterUnit: diameter.unit as LengthUnit,
        seconds,
        unit: vessel.unit,
      },
      restartFrom: 'make-up',
    }),
    look(
      'sees',
      'Does the gauge see the main?',
      'Let a little out at the far end, or think back to the drawing down: behind a shut valve at the pump the gauge would stand.',
      gaugeFalls,
      { when: after('make-up', 'within') },
    ),
    checkPhase({
      id: 'restore',
      title: 'Restore',
      closing: true,
      afterStop: true,
      say: 'Put everything back. The test stays open until this list is done.',
      when: [[{ conclusion: 'pass' }]],
      items: [
        step('bleed', 'Pressure let down slowly; pump, gauge and hoses removed'),
        step('ports', 'Test ports plugged and watched at working pressure'),
        step('hand-over', 'Handed over for flushing and disinfection; valves left as the supplier wants them'),
      ],
    }),
    checkPhase({
      id: 'make-safe',
      title: 'Leave it safe',
      closing: true,
      afterStop: true,
      say: 'This main is not proved. Leave it safe; the test stays open until this list is done.',
      when: [[{ conclusion: 'other' }]],
      items: [
        step('bleed', 'Pressure let down before anything is dug or loosened'),
        step('isolated', 'Kept apart from the supply, labelled'),
        step('told', 'Engineer told what was found'),
      ],
    }),
  ];

  return good(
    card.course({
      filled: 'water',
      unit: 'psi',
      phases,
      // The top of the band must be read too, not only the pressure that is asked for.
      highest: high,
      limit: within,
      instruments: { vessel },
      demands: { vessel: { highest: vessel.readability, limit: vessel.readability, unit: vessel.unit } },
      judgedBy: 'make-up',
      sees: [
        { phase: 'make-up', what: 'the main', contents: mainIn(material, lengthM, diameterM), unit: 'L/h', longer: { answer: 'hours' } },
      ],
      boundaries: [
        { id: 'ends', label: 'End caps and blank flanges', beyond: 'Nothing: these are ends' },
        { id: 'valves', label: 'Section valves', beyond: 'The main beyond the section valves' },
        {
          id: 'pump-valve',
          label: 'Valve between gauge and main',
          beyond: 'The main, which is what is tested: it has to be open',
          provedBy: after('sees', 'falls'),
        },
      ],
      conclusions: [
        { when: after('walk', 'leak'), verdict: 'fail', reason: 'leak-on-walk' },
        { when: after('make-up', 'over'), verdict: 'fail', reason: 'make-up-over', about: 'make-up' },
        { when: after('sees', 'stands'), verdict: 'inconclusive', reason: 'gauge-blind' },
        { when: after('make-up', 'within'), verdict: 'pass', reason: 'make-up-within', about: 'make-up' },
      ],
      derivation: [
        `Allowance: length × diameter × √mean pressure / 148 000 US gal/h (ft, in, psi), for ${answerLabel(waterMainMakeUp, 'length', answers.length).value} of ${answerLabel(waterMainMakeUp, 'diameter', answers.diameter).value} over ${seconds / 3600} h.`,
        `At the start pressure that is ${fromSi(allowance.value, 'galUS/h').toFixed(3)} US gal/h, ${fromSi(allowance.value, 'L/h').toFixed(3)} L/h; the mean of start and low pressure decides, and makes it a little less.`,
        answers['large-fall'] === 'engineer'
          ? `A larger fall is taken by the engineer’s criterion: ${answers.criterion}.`
          : `A fall of more than ${within} psi is pumped back during the hold; what is pumped counts as make-up.`,
      ],
      notTested: ['The main beyond the section valves', 'Service pipes beyond their stops', 'The quality of the water'],
      advice: [
        ...(thrust.ok ? [atEveryEnd(thrustWords(thrust.value, diameterM * 1000, 'psi'))] : []),
        ...(least === undefined
          ? []
          : [
              `Weakest: ${least.name}, rated ${fromSi(least.ratingPa, 'psi').toFixed(0)} psi, sees ${fromSi(seenBy(least, testPa, 'water'), 'psi').toFixed(0)} psi.`,
            ]),
        'Trapped air lets a leak hide from the gauge; the measured make-up still shows it.',
      ],
    }),
  );
}

function outOfScope(answers: Input['answers'], _: unknown, _figure: Input['figure']): readonly Problem[] {
  const problems: Problem[] = [];
  if (answers.material === 'PE') {
    const refused = mainAllowance({ material: 'PE', lengthM: 1, diameterM: 1, meanPa: 1e5 });
    if (!refused.ok) problems.push(refused.problem);
  }
  if (answers['large-fall'] === 'engineer' && (answers.criterion ?? '').trim() === '')
    problems.push({
      code: 'criterion-missing',
      field: 'criterion',
      message: 'Write down the engineer’s criterion: letter, date and what it says.',
    });
  const over = overRating(
    parseComponents(answers.components ?? '').components,
    quantityIn(asked, answers, 'test-pressure'),
    'water',
    'psi',
  );
  if (over !== undefined) problems.push(over);
  return problems;
}

const atEveryEnd = (said: Advice): Advice => {
  const words = `At every end, bend and tee: ${adviceText(said)}`;
  return typeof said === 'string' ? words : { beware: words };
};

export const waterMainMakeUp: Procedure = {
  id: 'water-main-make-up',
  version: '1',
  title: 'Water main by make-up',
  school: 'Allowance school',
  purpose:
    'Shows that a new water main of iron, steel or PVC loses no more water under pressure than is allowed for its size, and shows no leak.',
  systemKinds: ['water main'],
  plant,
  medium: 'water',
  volumeFrom: 'answers',
  presumed: ['large-fall', 'components'] satisfies readonly IdsOf<typeof parameters>[],
  roles: [{ role: 'vessel', label: 'Measuring vessel', quantity: 'volume', needed: () => true }],
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
