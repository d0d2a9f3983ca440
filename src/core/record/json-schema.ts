import { planShape } from '../course/plan-shape';
import { between, count, date, hash, is, list, may, name, oneOf, type Shape, shape, text, time, uuid, whole } from '../exact/shape';
import { eventSchema } from '../judging/events';
import { paperLocales, recordFormat, recordVersion, signerRoles } from './record';

export { planInputShape as planInputSchema, planShape as planSchema } from '../course/plan-shape';
export { eventSchema } from '../judging/events';

/** JSON Schema (2020-12) of the open record: the one definition, checked by every reader and published in docs/. */

/** A judgement is checked by judging again, so its shape is only outlined here. */
const judgement: Shape<unknown> = {
  type: 'object',
  required: ['judge', 'planHash', 'verdict', 'reasons'],
  properties: { judge: name, planHash: hash, verdict: name, reasons: { type: 'array' } },
};

export const recordSchema: Shape<unknown> = {
  $schema: 'https://json-schema.org/draft/2020-12/schema',
  $id: 'urn:vast-stone:record:1',
  title: 'Vast Stone test record',
  ...shape({
    format: is(recordFormat),
    version: is(recordVersion),
    firm: may(
      shape({
        name,
        address: may(text),
        registration: may(text),
        emergency: may(text),
        supplier: may(text),
        logo: may(hash),
        sheet: may(oneOf('A4', 'letter')),
        locale: may(oneOf(...paperLocales)),
      }),
    ),
    site: may(shape({ name, address: text, occupier: text })),
    tests: list(
      shape({
        system: may(shape({ name, kind: name, components: list(text, 500) })),
        details: may(
          shape({
            id: uuid,
            jobOrigin: text,
            visualInspection: oneOf('done', 'not done'),
            meterNumber: text,
            meterReading: text,
            technician: name,
          }),
        ),
        attempts: list(
          shape({ run: uuid, number: count, plan: planShape, events: list(eventSchema, 1_000_000), judgement: may(judgement) }),
          100,
          1,
        ),
      }),
      100,
      1,
    ),
    people: may(list(shape({ id: name, name, licence: may(text) }), 1000)),
    photos: may(list(shape({ run: uuid, hash, stored: may(hash), copy: may(hash), takenAt: time }), 1000)),
    certificate: may(
      shape({
        number: name,
        issuedAt: time,
        issuedOn: date,
        offsetMinutes: between(-840, 840),
        layout: name,
        checkCode: name,
        checkAddress: text,
        catalogue: name,
        corrects: may(shape({ number: name, reason: text })),
      }),
    ),
    signatures: may(
      list(
        shape({
          role: oneOf(...signerRoles),
          name,
          absent: may(text),
          refused: may(is(true)),
          remote: may(is(true)),
          signedAt: time,
          strokes: list(list(whole, 20_000), 500),
          judgementHash: hash,
        }),
        300,
      ),
    ),
    seal: may(
      shape({
        algorithm: is('ed25519'),
        keyId: name,
        publicKey: { type: 'string', pattern: '^[A-Za-z0-9+/]{43}=$' } as Shape<string>,
        previous: hash,
        sealedAt: time,
        hash,
        signature: { type: 'string', pattern: '^[A-Za-z0-9+/]{86}==$' } as Shape<string>,
      }),
    ),
  }),
};
