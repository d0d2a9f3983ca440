'use client';

import { useState } from 'react';
import { cardsOf, type EventOf } from '@/core/judging';
import { changing, componentText, fittedOn, making, type Thing } from '@/core/register';
import { newId } from '@/device/clock';
import { useDevice } from '@/device/provider';
import { today } from '@/device/use-ground';
import { useLive } from '@/device/use-live';
import type { OpenRun } from '@/device/use-run';
import { Button } from '@/ui/button';
import { Choice } from '@/ui/choice';
import { input } from '@/ui/classes';
import { Disclosure } from '@/ui/disclosure';
import { SheetDialog } from '@/ui/sheet-dialog';
import { Photograph, photographsOf } from './photographs';

type Component = Thing<'component'>;
type Card = EventOf<'appliance'>;
type Check = Card['checks'][number];

/** Words of an appliance as somebody found it. */
interface Found {
  readonly name: string;
  readonly make: string;
  readonly model: string;
  readonly serial: string;
}

const answers = [
  { value: 'yes', label: 'In order' },
  { value: 'no', label: 'Not in order' },
] as const;

/** The slot of an appliance's plate among the photographs. */
const plateOf = (key: string): string => `plate ${key}`.slice(0, 80);

/** The round of the appliances that fills a hold: a card each, prefilled from the register. */
export function ApplianceRound({ open, setDialog }: { readonly open: OpenRun; readonly setDialog: (dialog: string) => void }) {
  const { run, test, events, mayWrite } = open;
  const { store } = useDevice();
  const known = useLive(
    store,
    async ({ components }) => fittedOn(await components.where('systemId').equals(test.systemId).toArray(), today()),
    [test.systemId],
    [] as readonly Component[],
  );
  const [shown, setShown] = useState<string>();
  const cards = cardsOf(events);
  const made = cards.filter(({ of }) => of === undefined || !known.some(({ id }) => id === of));
  const done = cards.length;
  const rows = [
    ...known.map((component) => ({
      key: component.id,
      title: componentText(component),
      component,
      card: cards.find(({ of }) => of === component.id),
    })),
    ...made.map((card) => ({ key: card.of ?? card.name, title: componentText({ ...card, kind: card.name }), component: undefined, card })),
  ];
  const row = rows.find(({ key }) => key === shown);
  return (
    <Disclosure
      open
      look="min-h-12 py-2 font-medium"
      title={
        <>
          Appliances <span className="figures text-sm text-quiet">{`${done} of ${rows.length}`}</span>
        </>
      }
    >
      <ul className="divide-y divide-line border-y border-line">
        {rows.map(({ key, title, card }) => {
          const faults = card?.checks.filter(({ ok }) => !ok).length ?? 0;
          return (
            <li key={key} className="flex items-center justify-between gap-2 py-1">
              <span>
                {title}
                {card !== undefined && (
                  <b className={`block text-sm ${faults > 0 ? 'text-caution' : 'text-action'}`}>
                    {faults === 0 ? 'in order' : `${faults} not in order`}
                    {card.was !== undefined && card.was !== card.serial && ', swapped since the last visit'}
                  </b>
                )}
              </span>
              <Button
                tone="quiet"
                size="tall"
                disabled={!mayWrite}
                onClick={() => setShown(key)}
                aria-label={`${card === undefined ? 'Go round' : 'Change'}: ${title}`}
              >
                {card === undefined ? 'Go round' : 'Change'}
              </Button>
            </li>
          );
        })}
      </ul>
      <Button tone="bare" size="tall" disabled={!mayWrite} onClick={() => setShown('')}>
        Another appliance
      </Button>
      {shown !== undefined && (
        <SheetDialog title={row?.title ?? 'Another appliance'} close={() => setShown(undefined)}>
          <CardForm
            open={open}
            checks={run.plan.round ?? []}
            {...(row?.component === undefined ? {} : { component: row.component })}
            {...(row?.card === undefined ? {} : { card: row.card })}
            done={() => setShown(undefined)}
            photograph={(key) => {
              setShown(undefined);
              setDialog(`photo ${plateOf(key)}`);
            }}
          />
        </SheetDialog>
      )}
    </Disclosure>
  );
}

function CardForm({
  open,
  checks,
  component,
  card,
  done,
  photograph,
}: {
  readonly open: OpenRun;
  readonly checks: readonly { readonly id: string; readonly label: string }[];
  readonly component?: Component;
  readonly card?: Card;
  readonly done: () => void;
  readonly photograph: (key: string) => void;
}) {
  const { change } = useDevice();
  const { test, events, write } = open;
  const [found, setFound] = useState<Found>({
    name: card?.name ?? component?.kind ?? '',
    make: card?.make ?? component?.make ?? '',
    model: card?.model ?? component?.model ?? '',
    serial: card?.serial ?? component?.serial ?? '',
  });
  const [states, setStates] = useState<Readonly<Record<string, Check>>>(
    Object.fromEntries((card?.checks ?? []).map((one) => [one.id, one])),
  );
  const [fault, setFault] = useState<string>();
  const was = card?.was ?? (component?.serial === '' ? undefined : component?.serial);
  const isSwapped = was !== undefined && found.serial.trim() !== '' && found.serial.trim() !== was;
  const key = component?.id ?? card?.of ?? (card?.name || found.name.trim());
  const plates = photographsOf(events).filter(({ slot }) => slot === plateOf(key));
  const keep = async (): Promise<boolean> => {
    const [name, make, model, serial] = [found.name, found.make, found.model, found.serial].map((text) => text.trim());
    if (name === '') {
      setFault('Say what it is, such as “Boiler”.');
      return false;
    }
    const nothingToDo = checks.find(({ id }) => states[id]?.ok === false && (states[id].todo ?? '').trim() === '');
    if (nothingToDo !== undefined) {
      setFault(`${nothingToDo.label}: say what is to be done.`);
      return false;
    }
    const { problem, of } = await inRegister({ name, make, model, serial });
    if (problem !== undefined) {
      setFault(problem);
      return false;
    }
    await write({
      type: 'appliance',
      of,
      name,
      make,
      model,
      serial,
      ...(was === undefined ? {} : { was }),
      checks: checks.flatMap(({ id }) => (states[id] === undefined ? [] : [states[id]])),
    });
    return true;
  };
  /** The register learns what was found: a new row for what is new or was swapped, a fuller one for what was bare. */
  const inRegister = async (said: { name: string; make: string; model: string; serial: string }) => {
    const { name, make, model, serial } = said;
    const row = { systemId: test.systemId, kind: name, make, model, serial };
    if (component === undefined && card?.of !== undefined) return { of: card.of };
    if (component !== undefined && !isSwapped) {
      const one = changing('component', component, { make, model, serial });
      const problem = one === undefined ? undefined : await change([one]);
      return { of: component.id, ...(problem === undefined ? {} : { problem: problem.message }) };
    }
    const id = newId();
    const old = component === undefined ? undefined : changing('component', component, { removed: today() });
    const problem = await change([
      making('component', id, { ...row, fitted: component === undefined ? '' : today() }),
      ...(old === undefined ? [] : [old]),
    ]);
    return { of: id, ...(problem === undefined ? {} : { problem: problem.message }) };
  };
  const word = (label: string, field: keyof Found) => (
    <label className="block text-sm">
      {label}
      <input
        className={`${input} mt-0.5 text-base`}
        value={found[field]}
        onChange={({ target }) => setFound({ ...found, [field]: target.value })}
      />
    </label>
  );
  return (
    <form
      className="space-y-3"
      onSubmit={async (event) => {
        event.preventDefault();
        if (await keep()) done();
      }}
    >
      <div className="grid grid-cols-2 gap-2">
        {word('What it is', 'name')}
        {word('Make', 'make')}
        {word('Model', 'model')}
        {word('Serial', 'serial')}
      </div>
      {isSwapped && (
        <p role="status" className="font-semibold text-caution">
          Another serial than at the last visit ({was}): swapped.
        </p>
      )}
      <div className="flex flex-wrap items-center gap-3">
        {plates.map((photo) => (
          <Photograph key={photo.id} photo={photo} label="Plate" />
        ))}
        <Button tone="quiet" size="tall" disabled={found.name.trim() === ''} onClick={async () => (await keep()) && photograph(key)}>
          Photograph the plate
        </Button>
      </div>
      {checks.map(({ id, label }) => (
        <fieldset key={id}>
          <legend className="font-medium">{label}</legend>
          <Choice
            label={label}
            value={states[id] === undefined ? '' : states[id].ok ? 'yes' : 'no'}
            change={(value) =>
              setStates({ ...states, [id]: { id, ok: value === 'yes', ...(value === 'yes' ? {} : { todo: states[id]?.todo ?? '' }) } })
            }
            options={answers}
          />
          {states[id]?.ok === false && (
            <label className="mt-1 block text-sm">
              What is to be done
              <input
                className={`${input} mt-0.5 text-base`}
                value={states[id].todo ?? ''}
                onChange={({ target }) => setStates({ ...states, [id]: { id, ok: false, todo: target.value } })}
              />
            </label>
          )}
        </fieldset>
      ))}
      {fault !== undefined && (
        <p role="alert" className="font-medium text-stop">
          {fault}
        </p>
      )}
      <Button type="submit" size="great" className="w-full">
        Keep the card
      </Button>
    </form>
  );
}
