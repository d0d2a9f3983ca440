import type { Shape } from './shape';

/**
 * Where a value does not fit a shape, in words; undefined where it does. Knows the keywords that `shape.ts` writes: whatever
 * the published schema refuses, this refuses, in the core and without a library.
 */
export function misfit(shape: Shape<unknown>, value: unknown, at = 'it'): string | undefined {
  if ('const' in shape) return value === shape.const ? undefined : `${at} must be ${JSON.stringify(shape.const)}`;
  if (Array.isArray(shape.enum)) return shape.enum.includes(value) ? undefined : `${at} must be one of ${shape.enum.join(', ')}`;
  if (Array.isArray(shape.oneOf)) return misfitOfUnion(shape.oneOf as readonly Shape<unknown>[], value, at);
  if (Array.isArray(shape.anyOf)) return misfitOfUnion(shape.anyOf as readonly Shape<unknown>[], value, at);
  switch (shape.type) {
    case 'string':
      return misfitOfText(shape, value, at);
    case 'integer':
      return Number.isSafeInteger(value) && (value as number) >= Number(shape.minimum) && (value as number) <= Number(shape.maximum)
        ? undefined
        : `${at} must be a whole number from ${shape.minimum} to ${shape.maximum}`;
    case 'boolean':
      return typeof value === 'boolean' ? undefined : `${at} must be true or false`;
    case 'array': {
      if (!Array.isArray(value)) return `${at} must be a list`;
      if (value.length > Number(shape.maxItems) || value.length < Number(shape.minItems ?? 0)) return `${at} has ${value.length} entries`;
      // A list whose entries are only outlined takes any.
      if (shape.items === undefined) return undefined;
      return first(value.map((item, index) => () => misfit(shape.items as Shape<unknown>, item, `${at}[${index}]`)));
    }
    default:
      return misfitOfObject(shape, value, at);
  }
}

function misfitOfText(
  { minLength = 0, maxLength = Number.POSITIVE_INFINITY, pattern }: Shape<unknown>,
  value: unknown,
  at: string,
): string | undefined {
  if (typeof value !== 'string') return `${at} must be a text`;
  if (value.length < Number(minLength) || value.length > Number(maxLength)) return `${at} is ${value.length} signs long`;
  return typeof pattern === 'string' && !new RegExp(pattern, 'u').test(value) ? `${at} is “${value}”` : undefined;
}

function misfitOfObject(shape: Shape<unknown>, value: unknown, at: string): string | undefined {
  if (typeof value !== 'object' || value === null || Array.isArray(value)) return `${at} must be an object`;
  const properties = (shape.properties ?? {}) as Readonly<Record<string, Shape<unknown>>>;
  const entries = Object.entries(value).filter(([, item]) => item !== undefined);
  const missing = ((shape.required ?? []) as readonly string[]).find((key) => !entries.some(([own]) => own === key));
  if (missing !== undefined) return `${at} has no ${missing}`;
  return first(
    entries.map(([key, item]) => () => {
      const own = Object.hasOwn(properties, key) ? properties[key] : undefined;
      if (own !== undefined) return misfit(own, item, `${at}.${key}`);
      if (shape.additionalProperties === false) return `${at} has ${key}, which is not known`;
      return typeof shape.additionalProperties === 'object'
        ? misfit(shape.additionalProperties as Shape<unknown>, item, `${at}.${key}`)
        : undefined;
    }),
  );
}

/** The branch whose words the value uses says what is wrong; else the first. */
function misfitOfUnion(shapes: readonly Shape<unknown>[], value: unknown, at: string): string | undefined {
  const wrong = shapes.map((shape) => misfit(shape, value, at));
  if (wrong.some((one) => one === undefined)) return undefined;
  const own = shapes.findIndex((shape) =>
    Object.entries((shape.properties ?? {}) as Readonly<Record<string, Shape<unknown>>>).every(([key, property]) => {
      const own = (value as Readonly<Record<string, unknown>> | null)?.[key];
      return own === undefined || !('const' in property || Array.isArray(property.enum)) || misfit(property, own) === undefined;
    }),
  );
  return wrong[Math.max(0, own)];
}

function first(checks: readonly (() => string | undefined)[]): string | undefined {
  for (const check of checks) {
    const wrong = check();
    if (wrong !== undefined) return wrong;
  }
  return undefined;
}
