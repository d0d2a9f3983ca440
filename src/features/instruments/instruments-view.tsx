'use client';

import { type ReactNode, useState } from 'react';
import { unitLabel } from '@/core/quantities';
import { type Calibration, calibrationFault, type KnownInstrument, type Thing } from '@/core/register';
import { rigWords } from '@/core/sizing';
import { useToday } from '@/device/use-today';
import { Page } from '@/features/frame/page';
import { useSource } from '@/features/frame/source';
import { equipmentFields, instrumentFields } from '@/features/things/fields';
import { AddThing, ChangeThing } from '@/features/things/thing-dialog';
import { Button } from '@/ui/button';
import { subheading } from '@/ui/classes';
import { Disclosure } from '@/ui/disclosure';
import { Row, Rows } from '@/ui/list-row';
import { Simulated } from '@/ui/notice';
import { SheetDialog } from '@/ui/sheet-dialog';
import { useToast } from '@/ui/toasts';
import { daysBetween } from '@/ui/when';
import { type WordsField, WordsForm } from '@/ui/words-form';

type Open =
  | { readonly what: 'new instrument' }
  | { readonly what: 'new equipment' }
  | { readonly what: 'instrument'; readonly of: KnownInstrument }
  | { readonly what: 'equipment'; readonly of: Thing<'equipment'> }
  | { readonly what: 'calibration'; readonly of: KnownInstrument };

/** Days until an instrument's calibration is due, negative when overdue; undefined when none is needed or none is known. */
export const dueInDays = ({ calibrationNeeded, calibrations }: KnownInstrument, on: string | undefined): number | undefined =>
  on === undefined || !calibrationNeeded || calibrations[0] === undefined ? undefined : daysBetween(on, calibrations[0].dueOn);

/** The firm's gauges, instruments and equipment, when each is due, and its calibrations. */
export function InstrumentsView({
  instruments,
  equipment,
  signal,
}: {
  readonly instruments: readonly KnownInstrument[];
  readonly equipment: readonly Thing<'equipment'>[];
  readonly signal?: ReactNode;
}) {
  const [open, setOpen] = useState<Open>();
  const [away, setAway] = useState(false);
  const close = () => setOpen(undefined);
  const on = useToday();
  const put = instruments.filter(({ putAway }) => putAway).length + equipment.filter(({ putAway }) => putAway).length;
  const shown = instruments.filter(({ putAway }) => away || !putAway);
  const carried = equipment.filter(({ putAway }) => away || !putAway);
  return (
    <Page
      title="Instruments"
      signal={signal}
      actions={
        <>
          <Button tone={instruments.length === 0 ? 'action' : 'quiet'} shortcut="n" onClick={() => setOpen({ what: 'new instrument' })}>
            Add an instrument
          </Button>
          <Button tone="quiet" onClick={() => setOpen({ what: 'new equipment' })}>
            Add a plug, ball or ring set
          </Button>
        </>
      }
    >
      {instruments.length === 0 && (
        <p className="text-quiet">No instruments yet. Add the first one: a plan needs one to say what the test can see.</p>
      )}
      <ul className={shown.length === 0 ? 'hidden' : 'divide-y divide-line border-y border-line'}>
        {shown.map((one) => (
          <InstrumentRow key={one.id} one={one} on={on} open={setOpen} />
        ))}
      </ul>
      {carried.length > 0 && (
        <section className="mt-8" aria-labelledby="equipment">
          <h2 id="equipment" className={subheading}>
            Plugs, balls, rings and pumps
          </h2>
          <Rows>
            {carried.map((one) => (
              <Row
                key={one.id}
                title={<b>{one.name}</b>}
                more={[one.kind, one.size, one.rating === '' ? '' : `to ${one.rating}`, one.serial, one.putAway ? 'put away' : '']
                  .filter((part) => part !== '')
                  .join(' · ')}
              >
                <Button tone="bare" onClick={() => setOpen({ what: 'equipment', of: one })}>
                  Change
                </Button>
              </Row>
            ))}
          </Rows>
        </section>
      )}
      {put > 0 && (
        <Button tone="bare" className="mt-4" onClick={() => setAway(!away)}>
          {away ? 'Hide what is put away' : `${put} put away: show`}
        </Button>
      )}
      {open?.what === 'new instrument' && <AddInstrument on={on} close={close} />}
      {open?.what === 'new equipment' && <AddThing kind="equipment" title="Add equipment" fields={equipmentFields()} close={close} />}
      {open?.what === 'equipment' && (
        <ChangeThing kind="equipment" thing={open.of} title={`Change ${open.of.name}`} fields={equipmentFields(open.of)} close={close} />
      )}
      {open?.what === 'instrument' && (
        <ChangeThing kind="instrument" thing={open.of} title={`Change ${open.of.name}`} fields={instrumentFields(open.of)} close={close} />
      )}
      {open?.what === 'calibration' && <Calibrate of={open.of} close={close} />}
    </Page>
  );
}

function InstrumentRow({
  one,
  on,
  open,
}: {
  readonly one: KnownInstrument;
  readonly on: string | undefined;
  readonly open: (what: Open) => void;
}) {
  const due = dueInDays(one, on);
  const [last, ...before] = one.calibrations;
  const line = ({ id, doneOn, dueOn, reference }: KnownInstrument['calibrations'][number]) => (
    <li key={id}>
      Calibrated <span className="figures">{doneOn}</span>, valid to <span className="figures">{dueOn}</span> ({reference})
    </li>
  );
  return (
    <li className="grid gap-x-6 gap-y-1 py-3 md:grid-cols-[1fr_16rem]">
      <div>
        <h2 className="flex flex-wrap items-center gap-2 text-lg font-semibold">
          {one.name} {one.simulated && <Simulated />} {one.putAway && <span className="text-sm font-normal text-quiet">put away</span>}
        </h2>
        <p className="figures text-sm text-quiet">
          {one.serial} · {one.kind} · steps of {one.readability} {unitLabel(one.unit)} · {one.rangeLow} to {one.rangeHigh}{' '}
          {unitLabel(one.unit)}
        </p>
        {one.rigCheck !== undefined && (
          <p className={`mt-1 text-sm ${one.rigCheck.what === 'does not hold' ? 'text-stop' : 'text-quiet'}`}>
            Rig check: its rig {rigWords(one.rigCheck)}
          </p>
        )}
        {last !== undefined && <ul className="mt-1 text-sm text-quiet">{line(last)}</ul>}
        {before.length > 0 && (
          <Disclosure title={`${before.length} earlier`} className="text-sm">
            <ul className="text-quiet">{before.map(line)}</ul>
          </Disclosure>
        )}
      </div>
      <div>
        <p className="font-medium">
          {!one.calibrationNeeded ? (
            'Needs no calibration'
          ) : due === undefined ? (
            <span className="text-stop">No calibration on file: tests would be invalid</span>
          ) : due < 0 ? (
            <span className="text-stop">Overdue by {-due} days: tests would be invalid</span>
          ) : (
            <span className={due <= 30 ? 'text-caution' : ''}>Due in {due} days</span>
          )}
        </p>
        <p className="flex flex-wrap gap-x-5">
          {one.calibrationNeeded && (
            <Button tone="bare" className="text-sm" onClick={() => open({ what: 'calibration', of: one })}>
              Record a calibration
            </Button>
          )}
          <Button tone="bare" className="text-sm" onClick={() => open({ what: 'instrument', of: one })}>
            Change
          </Button>
        </p>
      </div>
    </li>
  );
}

const calibrationFields: readonly WordsField[] = [
  { name: 'doneOn', label: 'Calibrated on', kind: 'date' },
  { name: 'dueOn', label: 'Next due', kind: 'date' },
  { name: 'reference', label: 'Certificate’s reference' },
];

const saidOf = ({ doneOn, dueOn, reference }: Readonly<Record<string, unknown>>): Calibration => ({
  doneOn: String(doneOn ?? ''),
  dueOn: String(dueOn ?? ''),
  reference: String(reference ?? '').trim(),
});

/** A new instrument, with its last calibration where its papers are at hand. */
function AddInstrument({ on, close }: { readonly on: string | undefined; readonly close: () => void }) {
  const { calibrate } = useSource();
  const say = useToast();
  const calibrationIn = (values: Readonly<Record<string, unknown>>): Calibration | undefined => {
    const said = saidOf(values);
    return values.calibrationNeeded !== true || Object.values(said).every((one) => one === '') ? undefined : said;
  };
  return (
    <AddThing
      kind="instrument"
      title="Add an instrument"
      fields={[
        ...instrumentFields(),
        ...calibrationFields.map((field, index) => ({
          ...field,
          ...(index === 0 ? { help: 'From its certificate. May stay empty; until it is on file, a test with it is invalid.' } : {}),
          when: ({ calibrationNeeded }: Record<string, unknown>) => calibrationNeeded === true,
        })),
      ]}
      fault={(values) => {
        const said = calibrationIn(values);
        return said === undefined || on === undefined ? undefined : calibrationFault(said, on);
      }}
      then={async (values, id) => {
        const said = calibrationIn(values);
        const problem = said === undefined ? undefined : await calibrate(id, said);
        // The instrument is there: a second Save would make its twin.
        if (problem !== undefined) say(`Saved, but without its calibration: ${problem.message} Record it from the list.`);
      }}
      close={close}
    />
  );
}

function Calibrate({ of, close }: { readonly of: KnownInstrument; readonly close: () => void }) {
  const { calibrate } = useSource();
  const say = useToast();
  return (
    <SheetDialog title={`Calibration of ${of.name}`} close={close}>
      <WordsForm
        fields={calibrationFields}
        submit="Record it"
        send={async (values) => {
          const said = saidOf(values);
          const problem = await calibrate(of.id, said);
          if (problem !== undefined) return problem;
          say(`Recorded: ${of.name}, valid to ${said.dueOn}`);
          close();
          return undefined;
        }}
      />
    </SheetDialog>
  );
}
