'use client';

import { yupResolver } from '@hookform/resolvers/yup';
import { type ReactNode, useId } from 'react';
import { Controller, type FieldValues, type Resolver, useForm } from 'react-hook-form';
import type { AnyObjectSchema } from 'yup';
import { isStorable, storableWords } from '@/core/exact';
import type { Problem } from '@/core/quantities';
import { Button } from './button';
import { Choice, type Option } from './choice';
import { input } from './classes';
import { Fault } from './fault';

export interface WordsField {
  readonly name: string;
  readonly label: string;
  readonly help?: string;
  readonly kind?: 'text' | 'password' | 'email' | 'date' | 'time' | 'area' | 'choice' | 'check' | 'figure';
  readonly options?: readonly Option[];
  readonly initial?: string | boolean;
  readonly autoComplete?: string;
  /** Asked only where this holds of what stands in the others. */
  readonly when?: (values: FieldValues) => boolean;
}

/** A short form of words. Faults stand beside their field; nothing typed is lost before it is kept. */
export function WordsForm({
  fields,
  submit,
  send,
  schema,
  columns = false,
  children,
}: {
  readonly fields: readonly WordsField[];
  readonly submit: string;
  /** Keeps it, and answers what is wrong. */
  readonly send: (values: FieldValues) => Promise<Problem | undefined>;
  readonly schema?: AnyObjectSchema;
  /** Fields in two columns where there is room. */
  readonly columns?: boolean;
  /** Beside the button. */
  readonly children?: ReactNode;
}) {
  const initial = Object.fromEntries(fields.map((field) => [field.name, field.initial ?? (field.kind === 'check' ? false : '')]));
  const { register, handleSubmit, setError, formState, control, watch } = useForm<FieldValues>({
    defaultValues: initial,
    ...(schema === undefined ? {} : { resolver: yupResolver(schema) as Resolver<FieldValues> }),
  });
  const { errors, isSubmitting } = formState;
  // Several of these forms may stand on one page.
  const own = useId();
  const values = watch();
  const asked = fields.filter(({ when }) => when === undefined || when(values));
  const keep = handleSubmit(async (typed) => {
    const unkept = asked.find(({ name }) => typeof typed[name] === 'string' && !isStorable(typed[name]));
    if (unkept !== undefined) return setError(unkept.name, { message: storableWords.character });
    const problem = await send(typed);
    if (problem === undefined) return;
    const field = problem.field !== undefined && asked.some(({ name }) => name === problem.field) ? problem.field : 'root';
    setError(field, { message: problem.message });
  });
  return (
    <form onSubmit={keep} className="space-y-4" noValidate>
      <div className={columns ? 'grid items-start gap-4 sm:grid-cols-2' : 'space-y-4'}>
        {asked.map((field) => {
          const fault = errors[field.name]?.message;
          const id = own + field.name;
          const shared = { id, 'aria-invalid': fault !== undefined, ...register(field.name) };
          if (field.kind === 'check')
            return (
              <label key={field.name} className="flex min-h-11 items-center gap-3">
                <input type="checkbox" className="size-5 accent-(--action)" {...shared} /> {field.label}
              </label>
            );
          return (
            <div key={field.name}>
              {field.kind === 'choice' ? (
                <>
                  <span id={`${id}-label`} className="font-medium">
                    {field.label}
                  </span>
                  <div className="mt-1">
                    <Controller
                      control={control}
                      name={field.name}
                      render={({ field: { value, onChange } }) => (
                        <Choice
                          id={id}
                          labelledBy={`${id}-label`}
                          options={field.options ?? []}
                          value={String(value)}
                          change={onChange}
                          invalid={fault !== undefined}
                        />
                      )}
                    />
                  </div>
                </>
              ) : (
                <>
                  <label htmlFor={id} className="font-medium">
                    {field.label}
                  </label>
                  {field.kind === 'area' ? (
                    <textarea rows={3} className={`${input} mt-1`} {...shared} />
                  ) : field.kind === 'figure' ? (
                    <input inputMode="decimal" autoComplete="off" className={`${input} figures mt-1`} {...shared} />
                  ) : (
                    <input type={field.kind ?? 'text'} autoComplete={field.autoComplete ?? 'off'} className={`${input} mt-1`} {...shared} />
                  )}
                </>
              )}
              {fault !== undefined ? (
                <Fault of={String(fault)} />
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
      <div className="flex flex-wrap items-center gap-3">
        <Button type="submit" size="tall" disabled={isSubmitting}>
          {submit}
        </Button>
        {children}
      </div>
    </form>
  );
}
