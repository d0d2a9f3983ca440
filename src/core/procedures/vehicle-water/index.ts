import { fromSi, good, type Problem, type Result, toSi } from '../../quantities';
import { bandUnderRating, mostAtGauge, overRating, parseComponents } from '../../sizing/components';
import { gasIn, oneStep, storedAdvice } from '../../sizing/gas-hold';
import { quantityIn } from '../answers';
import { type Asked, cardOf, type Figures, type IdsOf, type PhaseIn } from '../card';
import { edge, gaugeFalls, step, stepIf } from '../phase-shapes';
import type { Course, CourseInput, Procedure } from '../procedure';
import { askChoice, askQuantity } from '../questions';
import { example } from './example';
import { breaches, faults } from './faults';
import { plant } from './plant';
import { sheet } from './sheet';

/** A vehicle's water system under air (DOMAIN 5.9). */

const card = cardOf({
  prepare: 'check',
  'blow-out': 'check',
  zero: 'zero',
  hold: 'no-fall',
  rig: ['dry', 'bubbles'],
  inside: ['unknown', 'bubbles'],
  sees: ['falls', 'stands'],
  restore: 'check',
  'make-safe': 'check',
});
const { after, checkPhase, getReady, holdPhase, look, makeSafeList, restoreList, soapTheRig, zeroGauge } = card;
export type Names = typeof card.names;
type Input = CourseInput<IdsOf<typeof figures>, IdsOf<typeof parameters>>;

const figures = [
  { id: 'low', label: 'Test pressure from', value: '45', unit: 'psi', stricter: 'higher', bound: '50' },
  { id: 'high', label: 'Test pressure to', value: '55', unit: 'psi', stricter: 'lower', bound: '46' },
  { id: 'blow-out', label: 'Blown out at no more than', value: '50', unit: 'psi', stricter: 'lower', bound: '20' },
  { id: 'hold-seconds', label: 'Hold', value: '600', unit: 's', stricter: 'higher', bound: '86400' },
  { id: 'coarsest', label: 'Gauge’s step at most', value: '1', unit: 'psi', stricter: 'lower', bound: '0.01' },
] as const satisfies Figures;

const parameters = [
  askChoice(
    'air',
    'Air',
    [
      ['oil-free', 'Oil-free'],
      ['oily', 'From a compressor with oil'],
    ],
    'Oil in drinking-water pipes stays there.',
  ),
  askQuantity(
    'rating',
    'Rating of the plumbing',
    'pressure',
    'psi',
    '60',
    ['10', '200'],
    'The lowest of pump, heater, filter and fittings: it is never exceeded.',
  ),
  {
    kind: 'components',
    id: 'components',
    label: 'What the air reaches',
    help: 'A line each, with its rating: Water heater 100 psi',
    usual: '',
  },
] as const satisfies Asked;
const asked = { parameters };
const ratingPsi = (answers: Input['answers']) => fromSi(quantityIn(asked, answers, 'rating'), 'psi');

function course({ answers, figure, gauge, volume }: Input): Result<Course> {
  const rating = Math.floor(ratingPsi(answers) * 10 + 1e-6) / 10;
  // 50 psi nominal, never above the weakest part; what bears less than the band is tested at its rating.
  const { components } = parseComponents(answers.components ?? '');
  const parts = [...components, { name: 'the plumbing', ratingPa: toSi(rating, 'psi'), heightM: 0 }];
  const from = Math.min(Number(figure('low')), fromSi(mostAtGauge(parts, 'gas') ?? Number.POSITIVE_INFINITY, 'psi'));
  const { low, high, ceiling } = bandUnderRating(
    from,
    Math.max(1, Number(figure('high')) - from),
    Number(figure('high')),
    parts,
    'gas',
    'psi',
    1,
  );
  const threshold = oneStep(gauge, 'psi');
  const seconds = Number(figure('hold-seconds'));

  const phases: readonly PhaseIn<Names>[] = [
    getReady(
      [
        step('heater', 'Water heater off, gas and electric: a dry element burns out'),
        step('pump', 'Water pump off; accumulator let down'),
        step('drained', 'Tank and heater drained'),
        edge('low-points', 'Low-point drains shut', { plugged: 'Shut' }),
        step('wear', 'Eye protection on'),
      ],
      ['element', 'energy'],
    ),
    checkPhase({
      id: 'blow-out',
      title: 'Blow out',
      cautions: ['energy'],
      say: `Blow out at ${figure('blow-out')} psi at most, the furthest tap first, until only mist comes.`,
      items: [
        step('taps', 'Every tap, shower, cistern and outside tap opened in turn until mist, then shut', { boundary: 'taps' }),
        stepIf('strainer', 'Strainer out of the inlet'),
        edge('inlet', 'Valve set to mains fill; the test plug in the inlet holds its check valve open', { plugged: 'Set, plug in' }),
        step('rig', 'Rig tight: its own joints soaped at a few psi'),
      ],
    }),
    { ...zeroGauge(gauge.readability), when: after('blow-out', 'done') },
    holdPhase({
      id: 'hold',
      title: 'Hold',
      purpose: 'tightness',
      cautions: ['energy'],
      when: after('zero', 'zeroed'),
      say: 'Raise slowly into the band, shut off and disconnect the air, let the gauge stand, and read it.',
      band: { low, high },
      ceiling,
      seconds,
      limit: { kind: 'no-fall', threshold },
      restartFrom: 'hold',
    }),
    soapTheRig('rig', 'hold', 'The gauge fell. Soap the rig first, then inside.'),
    look(
      'inside',
      'Soap inside',
      'Soap the joints inside, pump, heater and toilet valve. What was found?',
      [
        ['unknown', 'Nothing found yet'],
        ['bubbles', 'Bubbles at a fitting'],
      ],
      { when: after('rig', 'dry') },
    ),
    look(
      'sees',
      'Does the gauge see the system?',
      'Open the furthest tap a little and watch the gauge: shut at the inlet’s check valve it would stand, having seen only its own rig.',
      gaugeFalls,
      { when: after('hold', 'tight') },
    ),
    restoreList(
      [
        step('bleed', 'Air let down at the furthest tap; rig removed'),
        stepIf('strainer', 'Strainer back, valve set for use'),
        step('filled', 'Heater filled before it is switched on; or the system left dry and labelled'),
        step('told', 'Whoever uses the vehicle told'),
      ],
      ['element'],
    ),
    makeSafeList([
      step('bleed', 'Air let down before anything is loosened'),
      step('heater', 'Heater left off and labelled'),
      step('told', 'Whoever uses the vehicle told what was found'),
    ]),
  ];
  return good(
    card.course({
      filled: 'gas',
      unit: 'psi',
      phases,
      highest: high,
      limit: figure('coarsest'),
      judgedBy: 'hold',
      sees: [{ phase: 'hold', what: 'the plumbing', contents: gasIn(volume.totalL), unit: 'L/h', longer: { figure: 'hold-seconds' } }],
      boundaries: [
        {
          id: 'check-valve',
          label: 'Check valve of the inlet, between gauge and plumbing',
          beyond: 'The plumbing, which is what is tested: it has to be open',
          provedBy: after('sees', 'falls'),
        },
        { id: 'inlet', label: 'Inlet valve and its check valve', beyond: 'The filling hose and the mains side' },
        { id: 'low-points', label: 'Low-point drains', beyond: 'Nothing: these are ends' },
        { id: 'taps', label: 'Taps and outlets', beyond: 'Nothing: these are ends' },
      ],
      conclusions: [
        { when: after('rig', 'bubbles'), verdict: 'inconclusive', reason: 'rig-leaks' },
        { when: after('inside', 'unknown', 'bubbles'), verdict: 'fail', reason: 'fall', about: 'hold' },
        { when: after('sees', 'stands'), verdict: 'inconclusive', reason: 'gauge-blind' },
        { when: after('hold', 'tight'), verdict: 'pass', reason: 'tight', about: 'hold' },
      ],
      derivation: [
        `50 psi nominal, here ${low} to ${high}, never above the plumbing’s ${rating} psi.`,
        `One step of the gauge, ${threshold} psi, is a fall; none is permitted in ${Math.round(seconds / 60)} min.`,
      ],
      notTested: ['The water tank and its fittings', 'The mains side of the inlet'],
      advice: storedAdvice(volume.totalL, high, 'psi', volume.largestNominalMm),
    }),
  );
}

function outOfScope(answers: Input['answers'], _: unknown, figure: Input['figure']): readonly Problem[] {
  const problems: Problem[] = [];
  if (answers.air === 'oily')
    problems.push({
      code: 'air-oily',
      field: 'air',
      message: 'Oil stays in drinking-water pipes. Use an oil-free compressor or a filter that makes it so.',
    });
  if (ratingPsi(answers) < 20)
    problems.push({
      code: 'rating-low',
      field: 'rating',
      message: 'This plumbing bears less than 20 psi: air would show too little. Test it with water at its working pressure instead.',
    });
  const over = overRating(
    parseComponents(answers.components ?? '').components,
    toSi(Math.min(Number(figure('low')), ratingPsi(answers)), 'psi'),
    'gas',
    'psi',
  );
  if (over !== undefined) problems.push(over);
  return problems;
}

export const vehicleWater: Procedure = {
  id: 'vehicle-water-air',
  version: '1',
  title: 'Vehicle water system, air',
  school: 'Psi school',
  purpose: 'Shows that a vehicle’s water system holds air, so that it can be proved without water in winter or before first use.',
  systemKinds: ['water'],
  plant,
  medium: 'oil-free air',
  volumeFrom: 'pipes',
  presumed: ['components'] satisfies readonly IdsOf<typeof parameters>[],
  volumeDecides: () => false,
  roles: [],
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
