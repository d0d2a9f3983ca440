import { useState } from 'react';
import { instrumentOf, quantityOf } from '@/core/course';
import { heldSoFar, typedFigure } from '@/core/judging';
import { fromSi, toSi, unitLabel } from '@/core/quantities';
import type { Instrument } from '@/core/sizing';
import { type Moment, thisMoment } from '@/device/log';
import { Button } from '@/ui/button';
import { FigureInput } from '@/ui/figure-input';
import type { Inner } from './extra-dialog';

/** A main's fall is pumped back during its hold: the low pressure before, and the water that it took. */
export function PumpBack({ open, close, phase, round }: Inner) {
  const { plan } = open.run;
  const spec = plan.phases.find(({ id }) => id === phase);
  const gauge = instrumentOf(plan, spec?.kind === 'hold' ? spec.instrument : undefined);
  const field = plan.phases.flatMap((one) => (one.kind === 'measure' ? one.fields : [])).find(({ quantity }) => quantity === 'volume');
  const vessel = instrumentOf(plan, field?.instrument);
  // The low pressure counts from when the dialog was opened: pumping comes after.
  const [opened] = useState(thisMoment);
  const [low, setLow] = useState('');
  const [water, setWater] = useState('');
  const [fault, setFault] = useState<string>();
  const figure = (text: string, instrument: Instrument): string | undefined => {
    const { shown, fault: why } = typedFigure(text, instrument);
    if (why !== undefined) setFault(`${text} does not count: ${why}.`);
    return why === undefined ? shown : undefined;
  };
  const keep = async () => {
    const pressure = figure(low, gauge);
    const pumped = pressure === undefined ? undefined : figure(water, vessel);
    if (pressure === undefined || pumped === undefined) return;
    await write(gauge, pressure, low, 'keypad', opened);
    await write(vessel, pumped, water, 'keypad', thisMoment());
    close();
  };
  const write = (instrument: Instrument, value: string, typed: string, source: 'keypad' | 'simulated gauge', moment: Moment) =>
    open.write(
      {
        type: 'reading',
        phase,
        round,
        role: 'between',
        quantity: quantityOf(instrument.unit),
        value,
        unit: instrument.unit,
        typed,
        source,
      },
      moment,
    );
  /** The simulated main: both figures as its instruments show them, and the pump's stroke between. */
  const pumpSimulated = async () => {
    const { simulatedGauge } = await import('@/core/simulation');
    const before = simulatedGauge(plan, open.events, open.run.id)?.shownAt(opened.at);
    const start = heldSoFar(open.judgement.phases.find(({ id }) => id === phase))?.start;
    if (before === undefined || start === undefined) return;
    await write(gauge, before, before, 'simulated gauge', opened);
    const raised = await open.write({ type: 'plant', action: 'raise', value: String(fromSi(toSi(Number(start), gauge.unit), plan.unit)) });
    const moment = thisMoment();
    const water = simulatedGauge(plan, [...open.events, raised], open.run.id)?.measuredAt(
      moment.at,
      { id: 'pumped', label: 'Pumped back' },
      'volume',
    );
    if (water !== undefined) await write(vessel, water, water, 'simulated gauge', moment);
    close();
  };
  const ask = (label: string, instrument: Instrument, text: string, change: (text: string) => void) => (
    <label className="block font-medium">
      {label}, {unitLabel(instrument.unit)}
      <FigureInput
        className="mt-1 min-h-14 text-2xl font-normal"
        value={text}
        change={(typed) => {
          change(typed);
          setFault(undefined);
        }}
      />
    </label>
  );
  return (
    <form
      className="space-y-3"
      onSubmit={(event) => {
        event.preventDefault();
        keep();
      }}
    >
      <p>Read the gauge before pumping, pump back to the start pressure, and note the water it took.</p>
      {gauge.simulated && (
        <Button tone="quiet" size="great" className="w-full" onClick={pumpSimulated}>
          Pump the simulated main back
        </Button>
      )}
      {ask('Low pressure', gauge, low, setLow)}
      {ask('Water pumped back', vessel, water, setWater)}
      {fault !== undefined && (
        <p role="alert" className="font-medium text-stop">
          {fault}
        </p>
      )}
      <Button type="submit" size="great" className="w-full" disabled={low.trim() === '' || water.trim() === ''}>
        Keep both
      </Button>
    </form>
  );
}
