'use client';

import { yupResolver } from '@hookform/resolvers/yup';
import { useId } from 'react';
import { type FieldValues, type Resolver, useForm } from 'react-hook-form';
import type { AnyObjectSchema } from 'yup';
import { isStorable, storableWords } from '@/core/exact';
import type { Posting } from '@/core/permissions';
import { button, input } from './classes';
import { type Asked, post } from './post';

export interface FormField {
  readonly name: string;
  readonly label: string;
  readonly help?: string;
  readonly kind?: 'text' | 'password' | 'email' | 'date' | 'area' | 'choice' | 'check';
  readonly options?: readonly { readonly value: string; readonly label: string }[];
  readonly initial?: string | boolean;
  readonly autoComplete?: string;
}

/** A short form to our own server. Faults stand beside their field; nothing typed is lost. */
export function SimpleForm<T>({
  fields,
  route,
  parts,
  submit,
  done,
  schema,
  extra,
  shape = (values) => ({ ...values, ...extra }),
  columns = false,
  refused,
}: {
  readonly fields: readonly FormField[];
  readonly route: Posting;
  /** What fills the route's address in. */
  readonly parts?: Readonly<Record<string, string>>;
  readonly submit: string;
  readonly done: (value: T) => void;
  readonly schema?: AnyObjectSchema;
  readonly extra?: Readonly<Record<string, unknown>>;
  /** What is sent, where it is not the fields as they stand. */
  readonly shape?: (values: FieldValues) => Readonly<Record<string, unknown>>;
  /** Fields in two columns where there is room. */
  readonly columns?: boolean;
  /** Told of every refusal, beside what stands at its field. */
  readonly refused?: (answer: Asked<T> & { readonly ok: false }) => void;
}) {
  const initial = Object.fromEntries(fields.map((field) => [field.name, field.initial ?? (field.kind === 'check' ? false : '')]));
  const { register, handleSubmit, setError, formState } = useForm<FieldValues>({
    defaultValues: initial,
    ...(schema === undefined ? {} : { resolver: yupResolver(schema) as Resolver<FieldValues> }),
  });
  const { errors, isSubmitting } = formState;
  // Several of these forms may stand on one page.
  const own = useId();
  const send = handleSubmit(async (values) => {
    const unkept = fields.find(({ name }) => typeof values[name] === 'string' && !isStorable(values[name]));
    if (unkept !== undefined) return setError(unkept.name, { message: storableWords.character });
    const result = await post<T>(route, parts, shape(values));
    if (result.ok) return done(result.value);
    refused?.(result);
    const field =
      result.problem.field !== undefined && fields.some(({ name }) => name === result.problem.field) ? result.problem.field : 'root';
    setError(field, { message: result.problem.message });
  });
  return (
    <form onSubmit={send} className="space-y-4" noValidate>
      <div className={columns ? 'grid items-start gap-4 sm:grid-cols-2' : 'space-y-4'}>
        {fields.map((field) => {
          const fault = errors[field.name]?.message;
          const shared = { id: own + field.name, 'aria-invalid': fault !== undefined, ...register(field.name) };
          if (field.kind === 'check')
            return (
              <label key={field.name} className="flex min-h-11 items-center gap-3">
                <input type="checkbox" className="size-5 accent-(--action)" {...shared} /> {field.label}
              </label>
            );
          return (
            <div key={field.name}>
              <label htmlFor={own + field.name} className="font-medium">
                {field.label}
              </label>
              {field.kind === 'area' ? (
                <textarea rows={3} className={`${input} mt-1`} {...shared} />
              ) : field.kind === 'choice' ? (
                <select className={`${input} mt-1`} {...shared}>
                  {field.options?.map(({ value, label }) => (
                    <option key={value} value={value}>
                      {label}
                    </option>
                  ))}
                </select>
              ) : (
                <input type={field.kind ?? 'text'} autoComplete={field.autoComplete ?? 'off'} className={`${input} mt-1`} {...shared} />
              )}
              {fault !== undefined ? (
                <p role="alert" className="mt-1 text-sm font-medium text-stop">
                  {String(fault)}
                </p>
              ) : (
                field.help !== undefined && <p className="mt-1 text-sm text-quiet">{field.help}</p>
              )}
            </div>
          );
        })}
      </div>
      {errors.root !== undefined && (
        <p role="alert" className="border-l-4 border-stop bg-surface px-3 py-2 font-medium">
          {errors.root.message}
        </p>
      )}
      <button type="submit" className={`${button} min-h-12`} disabled={isSubmitting}>
        {submit}
      </button>
    </form>
  );
}
