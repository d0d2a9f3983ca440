'use client';

import { memo, useState } from 'react';
import type { Parameter } from '@/core/procedures';
import { convertTyped, type Problem, typedWith, type Unit, unitLabel, unitsOf, unitTyped } from '@/core/quantities';
import { Button } from './button';
import { Choice, Dropdown } from './choice';
import { input } from './classes';
import { Field } from './field';

type Quantity = Extract<Parameter, { kind: 'quantity' }>;

/** A figure as typed, without the unit behind it. */
const figureOf = (text: string): string => /^[\s\d.,/+−-]*/.exec(text)?.[0].trim() ?? '';

/**
 * A figure and its unit, which are two things: clearing the figure keeps the unit, and another unit converts the figure, or keeps it
 * where somebody says that it was meant so.
 */
function FigureWithUnit({
  parameter: { label, quantity, unit: usual },
  value,
  change,
  shared,
}: {
  readonly parameter: Quantity;
  readonly value: string;
  readonly change: (value: string) => void;
  readonly shared: object;
}) {
  const [last, setLast] = useState<Unit>(usual);
  const [was, setWas] = useState<string>();
  /** With a unit behind it, as long as it is being typed. */
  const [raw, setRaw] = useState<string>();
  const units = unitsOf(quantity);
  const figure = figureOf(value);
  // An empty field keeps the unit that it had.
  const unit = raw !== undefined || figure === '' ? last : unitTyped(value, quantity, usual);
  const typed = (text: string) => {
    setWas(undefined);
    setLast(unit);
    const isBare = text.slice(figureOf(text).length).trim() === '';
    setRaw(isBare ? undefined : text);
    change(isBare ? typedWith(text, unit, usual) : text);
  };
  const settle = () => {
    if (raw === undefined || convertTyped(raw, quantity, usual, usual) === undefined) return;
    setLast(unitTyped(raw, quantity, usual));
    setRaw(undefined);
  };
  const turn = (next: Unit) => {
    const converted = convertTyped(value, quantity, usual, next);
    setWas(converted === undefined || converted === figure ? undefined : figure);
    setLast(next);
    setRaw(undefined);
    change(typedWith(converted ?? figure, next, usual));
  };
  return (
    <>
      <span className="flex items-stretch gap-2">
        <input
          {...shared}
          className={`${input} figures min-w-0`}
          inputMode="decimal"
          autoComplete="off"
          value={raw ?? figure}
          onChange={(event) => typed(event.target.value)}
          onBlur={settle}
        />
        {units.length > 1 ? (
          <Dropdown
            className="!w-28 shrink-0"
            label={`Unit of ${label.toLowerCase()}`}
            options={units.map((one) => ({ value: one, label: unitLabel(one) }))}
            value={unit}
            change={turn}
          />
        ) : (
          <span className="w-16 shrink-0 self-center text-quiet">{unitLabel(unit)}</span>
        )}
      </span>
      {was !== undefined && (
        <Button
          tone="bare"
          className="text-sm"
          onClick={() => {
            change(typedWith(was, unit, usual));
            setWas(undefined);
          }}
        >
          It was {was} before: keep the number, {was} {unitLabel(unit)}
        </Button>
      )}
    </>
  );
}

/** One question of a plan or of a calculation, with its help or what is wrong with the answer; drawn again only when it changes. */
export const Question = memo(function Question({
  parameter,
  value,
  answer,
  problem,
  large = false,
}: {
  readonly parameter: Parameter;
  readonly value: string;
  /** Must stay the same between keys, for the sake of the other questions. */
  readonly answer: (id: string, value: string) => void;
  readonly problem?: Problem;
  /** It is still to be answered. */
  readonly large?: boolean;
}) {
  const { id, label, help } = parameter;
  const change = (typed: string) => answer(id, typed);
  const shared = { id, 'aria-invalid': problem !== undefined, 'aria-describedby': `${id}-help` };
  if (parameter.kind === 'choice')
    return (
      <Field id={id} label={label} help={help} problem={problem} group large={large}>
        <Choice
          id={id}
          labelledBy={`${id}-label`}
          describedBy={`${id}-help`}
          options={parameter.options}
          value={value}
          change={change}
          invalid={problem !== undefined}
        />
      </Field>
    );
  return (
    <Field id={id} label={label} help={help} problem={problem} large={large}>
      {parameter.kind === 'lines' || parameter.kind === 'components' ? (
        <textarea
          {...shared}
          rows={Math.max(2, value.split('\n').length + 1)}
          className={`${input} figures`}
          value={value}
          placeholder={parameter.kind === 'lines' ? parameter.example : undefined}
          onChange={(event) => change(event.target.value)}
          spellCheck={false}
        />
      ) : parameter.kind === 'text' ? (
        <input {...shared} className={input} value={value} onChange={(event) => change(event.target.value)} />
      ) : (
        <FigureWithUnit parameter={parameter} value={value} change={change} shared={shared} />
      )}
    </Field>
  );
});
