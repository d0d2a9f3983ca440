'use client';

import type { FieldValues } from 'react-hook-form';
import type { AnyObjectSchema } from 'yup';
import type { Posting } from '@/core/permissions';
import { type Asked, post } from './post';
import { type WordsField, WordsForm } from './words-form';

/** A short form to our own server. */
export function PostForm<T>({
  route,
  parts,
  done,
  extra,
  shape = (values) => ({ ...values, ...extra }),
  refused,
  ...form
}: {
  readonly fields: readonly WordsField[];
  readonly route: Posting;
  /** What fills the route's address in. */
  readonly parts?: Readonly<Record<string, string>>;
  readonly submit: string;
  readonly done: (value: T) => void;
  readonly schema?: AnyObjectSchema;
  readonly extra?: Readonly<Record<string, unknown>>;
  /** What is sent, where it is not the fields as they stand. */
  readonly shape?: (values: FieldValues) => Readonly<Record<string, unknown>>;
  readonly columns?: boolean;
  /** Told of every refusal, beside what stands at its field. */
  readonly refused?: (answer: Asked<T> & { readonly ok: false }) => void;
}) {
  return (
    <WordsForm
      {...form}
      send={async (values) => {
        const result = await post<T>(route, parts, shape(values));
        if (result.ok) {
          done(result.value);
          return undefined;
        }
        refused?.(result);
        return result.problem;
      }}
    />
  );
}
