import { storablePattern } from './storable';

/**
 * A JSON Schema that carries the TypeScript type of what it lets through: the shape of a plan or an event is written once,
 * and what the type forbids the reader refuses. The schema is the plain value; the type is worked out where it is written.
 */
declare const type: unique symbol;
export interface Shape<out T> {
  readonly [type]?: T;
  readonly [keyword: string]: unknown;
}

/** A property that may be left out. */
export interface May<out T> {
  readonly may: Shape<T>;
}

/** The type that a shape lets through. */
export type Of<S> = S extends Shape<infer T> ? T : never;

export type Fields = Readonly<Record<string, Shape<unknown> | May<unknown>>>;

/** The object that a set of fields describes. */
export type Whole<F extends Fields> = {
  readonly [K in keyof F as F[K] extends May<unknown> ? never : K]: F[K] extends Shape<infer T> ? T : never;
} & {
  readonly [K in keyof F as F[K] extends May<unknown> ? K : never]?: F[K] extends May<infer T> ? T : never;
};

const isMay = (field: Shape<unknown> | May<unknown>): field is May<unknown> => Object.hasOwn(field, 'may');

export const may = <T>(shape: Shape<T>): May<T> => ({ may: shape });

/** An object with exactly these properties. */
export const shape = <F extends Fields>(fields: F): Shape<Whole<F>> => ({
  type: 'object',
  properties: Object.fromEntries(Object.entries(fields).map(([key, field]) => [key, isMay(field) ? field.may : field])),
  required: Object.keys(fields).filter((key) => !isMay(fields[key])),
  additionalProperties: false,
});

export const text: Shape<string> = { type: 'string', maxLength: 4000, pattern: storablePattern };
/** An id, a title: never empty. */
export const name: Shape<string> = { type: 'string', minLength: 1, maxLength: 200, pattern: storablePattern };
export const flag: Shape<boolean> = { type: 'boolean' };
export const whole: Shape<number> = { type: 'integer', minimum: -9007199254740991, maximum: 9007199254740991 };
export const count: Shape<number> = { type: 'integer', minimum: 1, maximum: 9007199254740991 };
export const between = (minimum: number, maximum: number): Shape<number> => ({ type: 'integer', minimum, maximum });
/** A decimal in the unit that stands beside it; 12 digits and 9 decimals at most. */
export const decimalText: Shape<string> = { type: 'string', pattern: '^-?[0-9]{1,12}(\\.[0-9]{1,9})?$' };
export const hash: Shape<string> = { type: 'string', pattern: '^[0-9a-f]{64}$' };
export const date: Shape<string> = { type: 'string', pattern: '^[0-9]{4}-[0-9]{2}-[0-9]{2}$' };
/** Whole ms since 1970. */
export const time: Shape<number> = { type: 'integer', minimum: 0, maximum: 253402300799999 };
export const uuid: Shape<string> = { type: 'string', pattern: '^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$' };
export const is = <const V extends string | number | boolean>(value: V): Shape<V> => ({ const: value });
export const oneOf = <const V extends readonly (string | boolean)[]>(...values: V): Shape<V[number]> => ({ enum: values });
export const list = <T>(items: Shape<T>, maxItems = 10_000, minItems = 0): Shape<readonly T[]> => ({
  type: 'array',
  items,
  maxItems,
  ...(minItems === 0 ? {} : { minItems }),
});
export const record = <T>(values: Shape<T>): Shape<Readonly<Record<string, T>>> => ({ type: 'object', additionalProperties: values });
/** Any one of these, told apart by a property that each has as a constant. */
export const union = <S extends readonly Shape<unknown>[]>(...shapes: S): Shape<Of<S[number]>> => ({ anyOf: shapes });
