import { disturbanceKinds, readingRoles } from '../judging/events';
import { readQuantities } from '../procedures/phases';
import { pressureUnits, type UnitKind, unitsOf } from '../quantities';
import { recordFormat, recordVersion } from './record';

/** JSON Schema (2020-12) of the open record: the one definition, checked by every reader and published in docs/. */

type Schema = { readonly [key: string]: unknown };

const text: Schema = { type: 'string', maxLength: 4000 };
const name: Schema = { type: 'string', minLength: 1, maxLength: 200 };
const whole: Schema = { type: 'integer', minimum: -9007199254740991, maximum: 9007199254740991 };
const count: Schema = { type: 'integer', minimum: 1, maximum: 9007199254740991 };
const decimalText: Schema = { type: 'string', pattern: '^-?[0-9]{1,12}(\\.[0-9]{1,9})?$' };
const hash: Schema = { type: 'string', pattern: '^[0-9a-f]{64}$' };
const date: Schema = { type: 'string', pattern: '^[0-9]{4}-[0-9]{2}-[0-9]{2}$' };
const time: Schema = { type: 'integer', minimum: 0, maximum: 253402300799999 };
const uuid: Schema = { type: 'string', pattern: '^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$' };
const oneOf = (...values: readonly string[]): Schema => ({ enum: values });
const list = (items: Schema, maxItems = 10_000): Schema => ({ type: 'array', items, maxItems });

/** An object that needs every property not named in `optional`, and takes no other. */
const object = (properties: Record<string, Schema>, optional: readonly string[] = []): Schema => ({
  type: 'object',
  properties,
  required: Object.keys(properties).filter((key) => !optional.includes(key)),
  additionalProperties: false,
});

const kinds: readonly UnitKind[] = ['pressure', 'volume', 'length', 'flow', 'turns'];
const instrumentUnits = kinds.flatMap((kind) => unitsOf(kind));

const inPhase = { phase: name, round: count };

const bodies: Record<string, { readonly properties: Record<string, Schema>; readonly optional?: readonly string[] }> = {
  pen: { properties: {} },
  caution: { properties: { caution: name } },
  check: {
    properties: { ...inPhase, item: name, state: oneOf('done', 'not-applicable', 'proved', 'plugged', 'unproved', 'undone'), text },
    optional: ['text'],
  },
  observation: { properties: { ...inPhase, option: name } },
  stamp: { properties: { ...inPhase, role: oneOf(...readingRoles) } },
  reading: {
    properties: {
      ...inPhase,
      role: oneOf(...readingRoles),
      quantity: oneOf(...readQuantities),
      value: decimalText,
      unit: oneOf(...instrumentUnits, 'C', 'F', 'K'),
      typed: text,
      source: oneOf('keypad', 'simulated gauge'),
      stamp: uuid,
      point: name,
      qualifier: oneOf('below range'),
    },
    optional: ['stamp', 'point', 'qualifier'],
  },
  withdrawn: { properties: { reading: uuid, reason: text } },
  restart: { properties: { ...inPhase, reason: text } },
  disturbance: { properties: { ...inPhase, what: oneOf(...disturbanceKinds), text } },
  waived: { properties: { disturbance: uuid, reason: text } },
  'hold-stopped': { properties: { ...inPhase, reason: text } },
  'not-reached': { properties: { ...inPhase, text } },
  'leak-seen': { properties: { ...inPhase, where: oneOf('system', 'rig'), text } },
  smell: { properties: { text } },
  stopped: { properties: { reason: text } },
  'clock-jump': { properties: { ...inPhase, milliseconds: whole } },
  gap: { properties: { ...inPhase, milliseconds: whole } },
  note: { properties: { text } },
  photo: { properties: { hash, takenAt: time, text } },
  plant: { properties: { action: oneOf('scenario', 'zero', 'raise', 'isolate', 'reconnect'), value: name } },
  trace: {
    properties: {
      ...inPhase,
      startAt: time,
      stepMs: { type: 'integer', minimum: 1, maximum: 3_600_000 },
      unit: oneOf(...pressureUnits),
      scale: { type: 'integer', minimum: 0, maximum: 9 },
      values: list({ type: 'integer', minimum: -2147483648, maximum: 2147483647 }, 600),
      source: oneOf('keypad', 'simulated gauge'),
    },
  },
};

const envelope: Record<string, Schema> = {
  schema: { const: 1 },
  run: uuid,
  id: uuid,
  device: name,
  seq: count,
  author: name,
  observedAt: time,
  enteredAt: time,
  offsetMinutes: { type: 'integer', minimum: -840, maximum: 840 },
  boot: name,
  mono: whole,
  clock: { type: 'array', items: { type: 'integer', minimum: 0, maximum: 9007199254740991 }, minItems: 2, maxItems: 2 },
};

export const eventSchema: Schema = {
  type: 'object',
  required: ['type'],
  properties: { type: oneOf(...Object.keys(bodies)) },
  discriminator: { propertyName: 'type' },
  oneOf: Object.entries(bodies).map(([type, { properties, optional }]) =>
    object({ ...envelope, type: { const: type }, ...properties }, optional),
  ),
};

const condition: Schema = {
  anyOf: [
    object({ phase: name, outcome: list(name, 20) }),
    object({ phase: name, begunBefore: { const: true } }),
    object({ signal: { const: 'smell' }, seen: { const: true } }),
    object({ conclusion: oneOf('pass', 'other') }),
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
};
const seconds: Schema = { type: 'integer', minimum: 1, maximum: 604_800 };
const criterion: Schema = {
  anyOf: [
    object({ kind: { const: 'wait' } }),
    object({ kind: { const: 'no-rise' }, threshold: decimalText }),
    object({ kind: { const: 'no-fall' }, threshold: decimalText, permitted: decimalText }, ['permitted']),
    object({ kind: { const: 'at-most' }, limit: decimalText }),
    object({ kind: { const: 'keep' }, within: decimalText }, ['within']),
    object({
      kind: { const: 'leak-rate' },
      litres: decimalText,
      factor: decimalText,
      bands: list(object({ below: decimalText, outcome: name }), 20),
      beyond: name,
    }),
    object({ kind: { const: 'dial' }, threshold: decimalText, litresPerTurn: decimalText }),
  ],
};
const measureCriterion: Schema = {
  anyOf: [
    object({ kind: { const: 'recorded' } }),
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
  needed: { type: 'boolean' },
});
const phase: Schema = {
  anyOf: [
    object(
      {
        ...phaseBase,
        kind: { const: 'check' },
        closing: { type: 'boolean' },
        items: list(
          object({ id: name, text, mayNotApply: { type: 'boolean' }, boundary: name, write: name, plant: oneOf('isolate', 'reconnect') }, [
            'boundary',
            'write',
            'plant',
          ]),
          100,
        ),
      },
      ['afterStop'],
    ),
    object({ ...phaseBase, kind: { const: 'zero' }, below: decimalText, instrument: name }, ['afterStop', 'instrument']),
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
      },
      ['afterStop', 'afterRise', 'instrument', 'unit', 'ceiling', 'corrects'],
    ),
    object(
      {
        ...phaseBase,
        kind: { const: 'measure' },
        fields: list(object({ quantity: oneOf(...readQuantities), label: text, instrument: name }, ['instrument']), 10),
        points: { ...list(object({ id: name, label: text, aim: decimalText }, ['aim']), 200), minItems: 1 },
        criterion: measureCriterion,
        restartFrom: name,
      },
      ['afterStop'],
    ),
    object({ ...phaseBase, kind: { const: 'observe' }, options: list(object({ id: name, label: text, hoped: { type: 'boolean' } }), 20) }, [
      'afterStop',
    ]),
  ],
};

const instrumentIn = (units: readonly string[]): Schema =>
  object({
    id: name,
    name,
    kind: oneOf('liquid', 'digital', 'needle'),
    unit: oneOf(...units),
    readability: decimalText,
    rangeLow: decimalText,
    rangeHigh: decimalText,
    serial: text,
    simulated: { type: 'boolean' },
    calibration: { anyOf: [object({ needed: { const: false } }), object({ needed: { const: true }, last: date, due: date })] },
  });
const gauge = instrumentIn(pressureUnits);
const strictness: Record<string, Schema> = { rangeAtMost: decimalText, certificateYears: { type: 'integer', minimum: 1, maximum: 50 } };
const demand = object(
  { highest: decimalText, limit: decimalText, unit: oneOf(...instrumentUnits), ...strictness },
  Object.keys(strictness),
);
const byRole = (schema: Schema): Schema => ({ type: 'object', additionalProperties: schema });

export const planSchema: Schema = object(
  {
    schema: { const: 1 },
    procedure: object({ id: name, version: name, title: name, school: name }),
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
          source: oneOf('procedure', 'house rule'),
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
    plant: oneOf('gas', 'piping', 'water main', 'duct'),
    pipes: list(text, 1000),
    volume: object({ litres: decimalText, how: oneOf('schedule', 'stated', 'answers'), typed: text, lowest: decimalText }, ['lowest']),
    phases: { type: 'array', items: phase, minItems: 1, maxItems: 100 },
    conclusions: list(
      object(
        {
          when,
          verdict: oneOf('pass', 'pass with permitted drop', 'restricted', 'fail', 'inconclusive', 'invalid'),
          reason: name,
          about: name,
          offer: object({ label: text, answers: { type: 'object', additionalProperties: text } }),
        },
        ['about', 'offer'],
      ),
      50,
    ),
    boundaries: list(object({ id: name, label: text, provedBy: when, beyond: text }, ['provedBy']), 100),
    cautions: { type: 'object', additionalProperties: text },
    limit: decimalText,
    highest: decimalText,
    judgedBy: name,
    derivation: list(text, 50),
    notTested: list(text, 50),
    sight: object({ litresPerHour: decimalText, working: text }),
    hash,
  },
  ['instruments', 'demands', 'demand', 'plant'],
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
    on: date,
  },
  ['instruments', 'pipes', 'statedVolume', 'houseRules'],
);

/** A judgement is checked by judging again, so its shape is only outlined here. */
const judgement: Schema = {
  type: 'object',
  required: ['judge', 'planHash', 'verdict', 'reasons'],
  properties: { judge: name, planHash: hash, verdict: name, reasons: { type: 'array' } },
};

export const recordSchema: Schema = {
  $schema: 'https://json-schema.org/draft/2020-12/schema',
  $id: 'urn:vast-stone:record:1',
  title: 'Vast Stone test record',
  ...object(
    {
      format: { const: recordFormat },
      version: { const: recordVersion },
      firm: object({ name }),
      site: object({ name, address: text, occupier: text }),
      system: object({ name, kind: name, components: list(text, 500) }),
      test: object({
        id: uuid,
        jobOrigin: text,
        visualInspection: oneOf('done', 'not done'),
        meterNumber: text,
        meterReading: text,
        technician: name,
      }),
      attempts: {
        type: 'array',
        minItems: 1,
        maxItems: 100,
        items: object({ run: uuid, number: count, plan: planSchema, events: list(eventSchema, 1_000_000), judgement }, ['judgement']),
      },
      photos: list(object({ hash, stored: hash, takenAt: time }), 1000),
      certificate: object(
        {
          number: name,
          issuedAt: time,
          issuedOn: date,
          checkCode: name,
          checkAddress: text,
          corrects: object({ number: name, reason: text }),
        },
        ['corrects'],
      ),
      signatures: list(
        object({
          role: oneOf('technician', 'customer'),
          name,
          signedAt: time,
          strokes: list(list(whole, 20_000), 500),
          judgementHash: hash,
        }),
        10,
      ),
      seal: object({
        algorithm: { const: 'ed25519' },
        keyId: name,
        publicKey: { type: 'string', pattern: '^[A-Za-z0-9+/]{43}=$' },
        previous: hash,
        sealedAt: time,
        hash,
        signature: { type: 'string', pattern: '^[A-Za-z0-9+/]{86}==$' },
      }),
    },
    ['firm', 'site', 'system', 'test', 'photos', 'certificate', 'signatures', 'seal'],
  ),
};
