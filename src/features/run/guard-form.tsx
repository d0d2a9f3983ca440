'use client';

import { useState } from 'react';
import { readPipeTemperature, typedFigure } from '@/core/judging';
import { fromSi, toNumber, toSi, toText, unitLabel } from '@/core/quantities';
import type { Gauge } from '@/core/sizing';
import { Button } from '@/ui/button';
import { FigureInput } from '@/ui/figure-input';

/** The guard gauge and the pipe's temperature beside it, as they are read now. */
export function GuardForm({
  gauge,
  save,
  label,
  disabled,
}: {
  readonly gauge: Gauge;
  readonly save: (value: string, celsius: string | undefined) => Promise<unknown>;
  readonly label: string;
  readonly disabled: boolean;
}) {
  const [text, setText] = useState('');
  const [degrees, setDegrees] = useState('');
  const [fault, setFault] = useState<string>();
  const [saving, setSaving] = useState(false);
  const keep = async () => {
    const { shown, fault: why } = typedFigure(text, gauge);
    if (why !== undefined) return setFault(`${text} does not count: ${why}.`);
    const typed = degrees.trim() === '' ? undefined : readPipeTemperature(degrees, 'C');
    if (typed?.ok === false) return setFault(typed.problem.message);
    // Kept in °C, whatever was typed: looks are held against each other.
    const celsius =
      typed === undefined
        ? undefined
        : typed.value.unit === 'C'
          ? toText(typed.value.value)
          : fromSi(toSi(toNumber(typed.value.value), typed.value.unit), 'C').toFixed(1);
    setSaving(true);
    try {
      await save(shown, celsius);
      setText('');
      setDegrees('');
    } finally {
      // What could not be kept stays as it was typed.
      setSaving(false);
    }
  };
  const field = (name: string, unit: string, value: string, change: (text: string) => void) => (
    <label className="flex items-center gap-2">
      <FigureInput
        label={name}
        className="!w-28 text-lg"
        value={value}
        change={(typed) => {
          change(typed);
          setFault(undefined);
        }}
      />
      <span className="text-quiet">{unit}</span>
    </label>
  );
  return (
    <form
      className="mt-2 flex flex-wrap items-center gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        keep();
      }}
    >
      {field('Guard gauge', unitLabel(gauge.unit), text, setText)}
      {field('Pipe temperature', '°C', degrees, setDegrees)}
      <Button type="submit" size="tall" disabled={disabled || saving || text.trim() === ''}>
        {label}
      </Button>
      {fault !== undefined && (
        <p role="alert" className="w-full font-medium text-stop">
          {fault}
        </p>
      )}
    </form>
  );
}
