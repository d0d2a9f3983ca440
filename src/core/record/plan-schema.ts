import { instrumentKinds } from '../planning/gauge';
import { phasePictures, readQuantities } from '../procedures/phases';
import { plantKinds } from '../procedures/procedure';
import { pressureUnits, unitsOf } from '../quantities';
import { date, decimalText, hash, instrumentUnits, list, name, object, oneOf, type Schema, text, uuid } from './schema-parts';

const condition: Schema = {
  anyOf: [
    object({ phase: name, outcome: list(name, 20) }),
    object({ phase: name, begunBefore: { const: true } }),
    object({ signal: { const: 'smell' }, seen: { const: true } }),
    object({ conclusion: oneOf('pass', 'restricted', 'other') }),
  ],
};
const when = list(list(condition, 20), 20);
const phaseBase: Record<string, Schema> = {
  id: name,
  title: name,
  say: text,
  when,
  cautions: list(name, 20),
  afterStop: { type: 'boolean' },
  picture: oneOf(...phasePictures),
};
const bandSteps = list(object({ below: decimalText, outcome: name }), 20);
const bands = object({ steps: bandSteps, beyond: name });
const seconds: Schema = { type: 'integer', minimum: 1, maximum: 604_800 };
const criterion: Schema = {
  anyOf: [
    object({ kind: { const: 'wait' } }),
    object({ kind: { const: 'no-rise' }, threshold: decimalText }),
    object(
      {
        kind: { const: 'no-fall' },
        threshold: decimalText,
        permitted: decimalText,
        rise: object({ noted: decimalText, feedsTo: decimalText }),
      },
      ['permitted', 'rise'],
    ),
    object({ kind: { const: 'at-most' }, limit: decimalText, creep: decimalText, bands }, ['creep', 'bands']),
    object({ kind: { const: 'keep' }, within: decimalText }, ['within']),
    object({
      kind: { const: 'leak-rate' },
      litres: decimalText,
      factor: decimalText,
      bands: bandSteps,
      beyond: name,
    }),
    object({ kind: { const: 'dial' }, threshold: decimalText, litresPerTurn: decimalText }),
  ],
};
const measureCriterion: Schema = {
  anyOf: [
    object({ kind: { const: 'recorded' } }),
    object({ kind: { const: 'in-bands' }, unit: oneOf(...instrumentUnits), bands, worst: list(name, 20) }),
    object({
      kind: { const: 'air-at-most' },
      litres: decimalText,
      softness: decimalText,
      atmosphereHpa: decimalText,
      most: decimalText,
    }),
    object({
      kind: { const: 'flow-at-most' },
      limit: decimalText,
      unit: oneOf(...unitsOf('flow')),
      reference: decimalText,
      baseline: decimalText,
    }),
    object({
      kind: { const: 'make-up-at-most' },
      hold: name,
      material: oneOf('iron', 'steel', 'PVC'),
      lengthM: decimalText,
      diameterM: decimalText,
      seconds,
      unit: oneOf(...unitsOf('volume')),
    }),
  ],
};
const correction = object({
  temperatureDoubtK: decimalText,
  barometerDoubtHpa: decimalText,
  atmosphereHpa: decimalText,
  needed: { enum: [true, false, 'barometer'] },
});
const phase: Schema = {
  anyOf: [
    object(
      {
        ...phaseBase,
        kind: { const: 'check' },
        closing: { type: 'boolean' },
        items: list(
          object(
            {
              id: name,
              text,
              mayNotApply: { type: 'boolean' },
              boundary: name,
              write: name,
              plant: oneOf('isolate', 'reconnect'),
              to: name,
              pauseSeconds: seconds,
              guard: { const: true },
            },
            ['boundary', 'write', 'plant', 'to', 'pauseSeconds', 'guard'],
          ),
          100,
        ),
      },
      ['afterStop', 'picture'],
    ),
    object({ ...phaseBase, kind: { const: 'zero' }, below: decimalText, instrument: name }, ['afterStop', 'picture', 'instrument']),
    object(
      {
        ...phaseBase,
        kind: { const: 'hold' },
        purpose: oneOf('let-by', 'settle', 'tightness'),
        band: object({ low: decimalText, high: decimalText }),
        seconds,
        criterion,
        restartFrom: name,
        afterRise: name,
        instrument: name,
        unit: oneOf(...instrumentUnits),
        ceiling: decimalText,
        corrects: correction,
        fed: { const: true },
      },
      ['afterStop', 'picture', 'afterRise', 'instrument', 'unit', 'ceiling', 'corrects', 'fed'],
    ),
    object(
      {
        ...phaseBase,
        kind: { const: 'measure' },
        fields: list(object({ quantity: oneOf(...readQuantities), label: text, instrument: name }, ['instrument']), 10),
        points: { ...list(object({ id: name, label: text, aim: decimalText }, ['aim']), 200), minItems: 1 },
        criterion: measureCriterion,
        restartFrom: name,
        fed: { const: true },
      },
      ['afterStop', 'picture', 'fed'],
    ),
    object({ ...phaseBase, kind: { const: 'observe' }, options: list(object({ id: name, label: text, hoped: { type: 'boolean' } }), 20) }, [
      'afterStop',
      'picture',
    ]),
  ],
};

const instrumentIn = (units: readonly string[]): Schema =>
  object({
    id: name,
    name,
    kind: oneOf(...instrumentKinds),
    unit: oneOf(...units),
    readability: decimalText,
    rangeLow: decimalText,
    rangeHigh: decimalText,
    serial: text,
    simulated: { type: 'boolean' },
    calibration: { anyOf: [object({ needed: { const: false } }), object({ needed: { const: true }, last: date, due: date })] },
  });
const gauge = instrumentIn(pressureUnits);
const strictness: Record<string, Schema> = {
  rangeAtLeast: decimalText,
  rangeAtMost: decimalText,
  certificateYears: { type: 'integer', minimum: 1, maximum: 50 },
};
const demand = object(
  { highest: decimalText, limit: decimalText, unit: oneOf(...instrumentUnits), ...strictness },
  Object.keys(strictness),
);
const byRole = (schema: Schema): Schema => ({ type: 'object', additionalProperties: schema });

export const planSchema: Schema = object(
  {
    schema: { const: 1 },
    procedure: object(
      { id: name, version: name, title: name, school: name, variant: object({ id: uuid, title: name, version: name, reference: name }) },
      ['variant'],
    ),
    answers: { type: 'object', additionalProperties: text },
    answerLabels: list(object({ label: name, value: text }), 100),
    figures: list(
      object(
        {
          id: name,
          label: text,
          value: decimalText,
          unit: text,
          procedureValue: decimalText,
          source: oneOf('procedure', 'own procedure', 'house rule'),
          reference: text,
        },
        ['reference'],
      ),
      200,
    ),
    unit: oneOf(...pressureUnits),
    medium: text,
    gauge,
    instruments: byRole(instrumentIn(instrumentUnits)),
    demands: byRole(demand),
    demand: object(strictness, Object.keys(strictness)),
    plant: oneOf(...plantKinds),
    pipes: list(text, 1000),
    volume: object({ litres: decimalText, how: oneOf('schedule', 'stated', 'measured', 'answers'), typed: text, lowest: decimalText }, [
      'lowest',
    ]),
    phases: { type: 'array', items: phase, minItems: 1, maxItems: 100 },
    conclusions: list(
      object(
        {
          when,
          verdict: oneOf('pass', 'pass with permitted drop', 'restricted', 'fail', 'inconclusive', 'invalid'),
          reason: name,
          about: name,
          repairDays: { type: 'integer', minimum: 1, maximum: 3660 },
          offer: object({ label: text, answers: { type: 'object', additionalProperties: text } }),
        },
        ['about', 'repairDays', 'offer'],
      ),
      50,
    ),
    boundaries: list(object({ id: name, label: text, provedBy: when, beyond: text }, ['provedBy']), 100),
    cautions: { type: 'object', additionalProperties: text },
    limit: decimalText,
    highest: decimalText,
    judgedBy: name,
    guard: object({ pipe: name, relaxingShare: decimalText, alarmShare: decimalText }),
    derivation: list(text, 50),
    notTested: list(text, 50),
    sight: object({ litresPerHour: decimalText, working: text }),
    hash,
  },
  ['instruments', 'demands', 'demand', 'plant', 'guard'],
);

/** What a plan is made from: the input of `plan FILE`. */
export const planInputSchema: Schema = object(
  {
    procedure: name,
    answers: { type: 'object', additionalProperties: text },
    pipes: text,
    statedVolume: text,
    gauge,
    instruments: byRole(instrumentIn(instrumentUnits)),
    houseRules: list(object({ procedure: name, figure: name, value: text, reference: text }), 100),
    variant: object({
      id: uuid,
      base: name,
      title: name,
      version: name,
      reference: name,
      figures: list(object({ figure: name, value: text }), 100),
    }),
    on: date,
  },
  ['instruments', 'pipes', 'statedVolume', 'houseRules', 'variant'],
);
