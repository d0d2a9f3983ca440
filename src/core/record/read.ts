import { misfit } from '../exact/fit';
import { bad, good, type Result } from '../quantities/result';
import { recordSchema } from './json-schema';
import { attemptsOf, type TestRecord } from './record';

/**
 * A record as it came from a file, checked against the published schema. What this lets through, every function of the core
 * takes without throwing.
 * @param value what `JSON.parse` made of it
 */
export function readRecord(value: unknown): Result<TestRecord> {
  const wrong = misfit(recordSchema, value, 'the record');
  if (wrong !== undefined) return bad('unreadable', `This is no Vast Stone record: ${wrong}.`);
  return eventsOnce(value as TestRecord);
}

/** A thing that was written once stands in a record once. */
export function eventsOnce(record: TestRecord): Result<TestRecord> {
  for (const { events } of attemptsOf(record)) {
    const ids = new Set<string>();
    for (const { id } of events) {
      if (ids.has(id)) return bad('unreadable', `This is no Vast Stone record: the event ${id} stands in it twice.`);
      ids.add(id);
    }
  }
  return good(record);
}
