import { disturbanceKinds, readingRoles, readingSources } from '../judging/events';
import { searchMethods } from '../locating/likelihood';
import { readQuantities } from '../procedures/phases';
import { pressureUnits } from '../quantities';
import { count, decimalText, hash, instrumentUnits, list, name, object, oneOf, type Schema, text, time, uuid, whole } from './schema-parts';

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
      source: oneOf(...readingSources),
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
  guard: {
    properties: { value: decimalText, unit: oneOf(...instrumentUnits), celsius: decimalText, source: oneOf(...readingSources) },
    optional: ['celsius'],
  },
  searched: { properties: { section: name, method: oneOf(...searchMethods), leak: { type: 'boolean' }, text } },
  isolation: {
    properties: {
      section: name,
      step: oneOf('start', 'end', 'said'),
      value: decimalText,
      unit: oneOf(...instrumentUnits),
      source: oneOf(...readingSources),
      stillLeaks: { type: 'boolean' },
    },
    optional: ['value', 'unit', 'source', 'stillLeaks'],
  },
  photo: { properties: { hash, takenAt: time, text } },
  plant: { properties: { action: oneOf('scenario', 'zero', 'raise', 'feed', 'isolate', 'reconnect', 'disconnect'), value: name } },
  trace: {
    properties: {
      ...inPhase,
      startAt: time,
      stepMs: { type: 'integer', minimum: 1, maximum: 3_600_000 },
      unit: oneOf(...pressureUnits),
      scale: { type: 'integer', minimum: 0, maximum: 9 },
      values: list({ type: 'integer', minimum: -2147483648, maximum: 2147483647 }, 600),
      source: oneOf(...readingSources),
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
