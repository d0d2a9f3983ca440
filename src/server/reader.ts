import { Ajv2020, type ErrorObject, type ValidateFunction } from 'ajv/dist/2020.js';
import type { RunEvent } from '@/core/judging';
import type { Plan, PlanInput } from '@/core/planning';
import { bad, good, type Result } from '@/core/quantities';
import { eventSchema, eventsOnce, planInputSchema, planSchema, recordSchema, type TestRecord } from '@/core/record';

/** Reads what came from outside against the published schema: the one door for records, plans and events. */
const ajv = new Ajv2020({ discriminator: true, allErrors: false, strict: false });
const compiled = new Map<object, ValidateFunction>();

function validator(schema: object): ValidateFunction {
  let found = compiled.get(schema);
  if (found === undefined) {
    found = ajv.compile(schema);
    compiled.set(schema, found);
  }
  return found;
}

/** Makes the readers of events and plans ready: half a second of work that would else be the first device's to wait for. */
export function prepareReaders(): void {
  for (const schema of [eventSchema, planSchema]) validator(schema);
}

const place = (error: ErrorObject): string =>
  error.instancePath === '' ? 'the whole' : error.instancePath.slice(1).replaceAll('/', ' › ');

const detail = ({ keyword, params, message = '' }: ErrorObject): string => {
  if (keyword === 'additionalProperties') return `has “${params.additionalProperty}”, which is not known here`;
  if (keyword === 'const') return `must be ${JSON.stringify(params.allowedValue)}`;
  if (keyword === 'enum') return `must be one of ${params.allowedValues.join(', ')}`;
  return message;
};

function read<T>(schema: object, input: unknown, what: string): Result<T> {
  const validate = validator(schema);
  if (validate(input)) return good(input as T);
  const [error] = validate.errors ?? [];
  return bad(
    'unreadable',
    error === undefined ? `This is no ${what}.` : `This is no ${what}: ${place(error)} ${detail(error)}.`,
    error?.instancePath,
  );
}

export const readEvent = (input: unknown): Result<RunEvent> => read(eventSchema, input, 'event that can be read');
export const readPlan = (input: unknown): Result<Plan> => read(planSchema, input, 'plan that can be read');

/** JSON from the text of a file; says the line where it is broken. Some editors put a mark before the first sign. */
function parsed(whole: string): Result<unknown> {
  const text = whole.replace(/^\ufeff/, '');
  try {
    return good(JSON.parse(text));
  } catch (error) {
    return bad('not-json', `The file is not JSON: ${whereBroken(text, String((error as Error).message))}`);
  }
}

/** A record from the text of a file; says the line for broken JSON and the place for a wrong shape. */
export function readRecord(text: string): Result<TestRecord> {
  const input = parsed(text);
  const record = input.ok ? read<TestRecord>(recordSchema, input.value, 'Vast Stone record') : input;
  const once = record.ok ? eventsOnce(record.value) : record;
  return once.ok && record.ok
    ? good({
        ...record.value,
        tests: record.value.tests.map((one) => ({
          ...one,
          attempts: one.attempts.map((attempt) => ({ ...attempt, events: inPlace(attempt.events) })),
        })),
      })
    : once;
}

/** In a record an event's place is its place in the list. */
function inPlace(events: readonly RunEvent[]): readonly RunEvent[] {
  return events.every(({ position }) => position === undefined)
    ? events.map((event, index) => ({ ...event, position: index + 1 }))
    : events;
}

/** What a plan is made from, from the text of a file. */
export function readPlanInput(text: string): Result<PlanInput> {
  const input = parsed(text);
  if (!input.ok) return input;
  const checked = read<Partial<PlanInput> & Pick<PlanInput, 'procedure' | 'answers' | 'gauge' | 'on'>>(
    planInputSchema,
    input.value,
    'input of a plan',
  );
  return checked.ok ? good({ pipes: '', statedVolume: '', houseRules: [], ...checked.value }) : checked;
}

function whereBroken(text: string, message: string): string {
  const position = /position (\d+)/.exec(message);
  if (position === null) return `it ends too early or is empty (${text.length} characters).`;
  const before = text.slice(0, Number(position[1])).split('\n');
  return `the fault is at line ${before.length}, column ${(before.at(-1) ?? '').length + 1}.`;
}
