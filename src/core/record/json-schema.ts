import { eventSchema } from './event-schema';
import { planSchema } from './plan-schema';
import { recordFormat, recordVersion } from './record';
import { count, date, hash, list, name, object, oneOf, type Schema, text, time, uuid, whole } from './schema-parts';

export { eventSchema } from './event-schema';
export { planInputSchema, planSchema } from './plan-schema';

/** JSON Schema (2020-12) of the open record: the one definition, checked by every reader and published in docs/. */

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
