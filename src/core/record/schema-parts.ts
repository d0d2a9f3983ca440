import { type UnitKind, unitsOf } from '../quantities';

/** What the record's schemas are built of. */

export type Schema = { readonly [key: string]: unknown };

export const text: Schema = { type: 'string', maxLength: 4000 };
export const name: Schema = { type: 'string', minLength: 1, maxLength: 200 };
export const whole: Schema = { type: 'integer', minimum: -9007199254740991, maximum: 9007199254740991 };
export const count: Schema = { type: 'integer', minimum: 1, maximum: 9007199254740991 };
export const decimalText: Schema = { type: 'string', pattern: '^-?[0-9]{1,12}(\\.[0-9]{1,9})?$' };
export const hash: Schema = { type: 'string', pattern: '^[0-9a-f]{64}$' };
export const date: Schema = { type: 'string', pattern: '^[0-9]{4}-[0-9]{2}-[0-9]{2}$' };
export const time: Schema = { type: 'integer', minimum: 0, maximum: 253402300799999 };
export const uuid: Schema = { type: 'string', pattern: '^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$' };
export const oneOf = (...values: readonly string[]): Schema => ({ enum: values });
export const list = (items: Schema, maxItems = 10_000): Schema => ({ type: 'array', items, maxItems });

/** An object that needs every property not named in `optional`, and takes no other. */
export const object = (properties: Record<string, Schema>, optional: readonly string[] = []): Schema => ({
  type: 'object',
  properties,
  required: Object.keys(properties).filter((key) => !optional.includes(key)),
  additionalProperties: false,
});

const kinds: readonly UnitKind[] = ['pressure', 'volume', 'length', 'flow', 'turns'];
export const instrumentUnits = kinds.flatMap((kind) => unitsOf(kind));
