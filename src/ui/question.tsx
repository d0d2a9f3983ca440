import { memo } from 'react';
import type { Parameter } from '@/core/procedures';
import { type Problem, parseQuantity, type Unit, unitLabel, unitsOf } from '@/core/quantities';
import { input } from './classes';
import { Field } from './field';

/** A figure as typed, without the unit behind it. */
const figureOf = (text: string): string => /^[\s\d.,/+−-]*/.exec(text)?.[0].trim() ?? '';

/** The unit that a figure is in: the one typed, else the question's own. */
const unitOf = (text: string, { quantity, unit }: Extract<Parameter, { kind: 'quantity' }>): Unit => {
  const typed = parseQuantity(text, quantity, unit);
  return typed.ok ? typed.value.unit : unit;
};

/** One question of a plan or of a calculation, with its help or what is wrong with the answer; drawn again only when it changes. */
export const Question = memo(function Question({
  parameter,
  value,
  answer,
  problem,
  units = false,
}: {
  readonly parameter: Parameter;
  readonly value: string;
  /** Must stay the same between keys, for the sake of the other questions. */
  readonly answer: (id: string, value: string) => void;
  readonly problem?: Problem;
  /** Offers the other units of a quantity beside its field. */
  readonly units?: boolean;
}) {
  const { id, label, help } = parameter;
  const change = (typed: string) => answer(id, typed);
  const common = { id, 'aria-invalid': problem !== undefined };
  return (
    <Field id={id} label={label} help={help} problem={problem}>
      {parameter.kind === 'choice' ? (
        <select {...common} className={input} value={value} onChange={(event) => change(event.target.value)}>
          {parameter.options.map((option) => (
            <option key={option.value} value={option.value}>
              {option.label}
            </option>
          ))}
        </select>
      ) : parameter.kind === 'lines' || parameter.kind === 'components' ? (
        <textarea
          {...common}
          rows={Math.max(3, value.split('\n').length + 1)}
          className={`${input} figures`}
          value={value}
          placeholder={parameter.kind === 'lines' ? parameter.example : undefined}
          onChange={(event) => change(event.target.value)}
          spellCheck={false}
        />
      ) : parameter.kind === 'text' ? (
        <input {...common} className={input} value={value} onChange={(event) => change(event.target.value)} />
      ) : (
        <span className="flex items-center gap-2">
          <input
            {...common}
            className={`${input} figures`}
            inputMode="decimal"
            autoComplete="off"
            value={value}
            onChange={(event) => change(event.target.value)}
          />
          {units && unitsOf(parameter.quantity).length > 1 ? (
            <select
              aria-label={`Unit of ${label.toLowerCase()}`}
              className={`${input} !w-28 shrink-0 text-quiet`}
              value={unitOf(value, parameter)}
              onChange={(event) =>
                change(`${figureOf(value)}${event.target.value === parameter.unit ? '' : ` ${unitLabel(event.target.value as Unit)}`}`)
              }
            >
              {unitsOf(parameter.quantity).map((unit) => (
                <option key={unit} value={unit}>
                  {unitLabel(unit)}
                </option>
              ))}
            </select>
          ) : (
            <span className={`text-quiet ${units ? 'w-28 shrink-0 px-3' : ''}`}>{unitLabel(parameter.unit)}</span>
          )}
        </span>
      )}
    </Field>
  );
});
