'use client';

import { useState } from 'react';
import { systemKindWords } from '@/core/procedures';
import { blank, componentText, type History, type Thing } from '@/core/register';
import { To } from '@/features/frame/source';
import { componentFields, systemFields } from '@/features/things/fields';
import { AddThing, ChangeThing } from '@/features/things/thing-dialog';
import { Button, buttonLook } from '@/ui/button';
import { link, subheading } from '@/ui/classes';
import { Simulated } from '@/ui/notice';
import { VerdictMark } from '@/ui/verdict-mark';
import { dayText } from '@/ui/when';
import { Schematic } from './schematic';

type Open =
  | { readonly what: 'system' }
  | { readonly what: 'new component' }
  | { readonly what: 'component'; readonly of: Thing<'component'> };

/** A system: its schematic, what hangs on it, and its tests. */
export function SystemCard({
  system,
  components,
  tests,
}: {
  readonly system: Thing<'system'>;
  readonly components: readonly Thing<'component'>[];
  readonly tests: readonly History[];
}) {
  const [open, setOpen] = useState<Open>();
  const close = () => setOpen(undefined);
  const there = components.filter(({ putAway }) => !putAway);
  const pipes = system.pipes.split('\n').filter((line) => line.trim() !== '');
  return (
    <section className="border-t border-line pt-4" aria-labelledby={system.id}>
      <div className="flex flex-wrap items-center justify-between gap-3">
        <h2 id={system.id} className={subheading}>
          {system.name} <span className="text-base font-normal text-quiet">{systemKindWords[system.kind]}</span>
        </h2>
        {system.putAway ? (
          <Button tone="quiet" onClick={() => setOpen({ what: 'system' })}>
            Put away
          </Button>
        ) : (
          <To place={{ at: 'plan', system: system.id }} className={buttonLook()}>
            Plan a test
          </To>
        )}
      </div>
      <div className="mt-3 grid gap-6 md:grid-cols-2">
        <div>
          <Schematic sections={system.sections} name={system.name} />
          <p className="figures mt-2 text-sm text-quiet">
            {pipes.join(' · ') || (system.statedVolume === '' ? '' : `stated ${system.statedVolume}`)}
          </p>
          {there.length > 0 && (
            <ul className="mt-1" aria-label={`Components of ${system.name}`}>
              {there.map((one) => (
                <li key={one.id}>
                  <button
                    type="button"
                    className="min-h-11 w-full py-1 text-left text-sm hover:bg-sunken"
                    onClick={() => setOpen({ what: 'component', of: one })}
                  >
                    {componentText(one)}
                    <span className="text-quiet">
                      {one.rating !== '' && ` · to ${one.rating}`}
                      {one.height !== '' && ` at ${one.height}`}
                      {one.removed !== '' && ` · removed ${one.removed}`}
                    </span>
                  </button>
                </li>
              ))}
            </ul>
          )}
          <p className="flex flex-wrap gap-x-5">
            <Button tone="bare" className="text-sm" onClick={() => setOpen({ what: 'new component' })}>
              Add a component
            </Button>
            <To place={{ at: 'sections', system: system.id }} className="inline-flex min-h-11 items-center text-sm underline">
              Change the sections
            </To>
            <Button tone="bare" className="text-sm" onClick={() => setOpen({ what: 'system' })}>
              Change the system
            </Button>
          </p>
        </div>
        <div>
          {tests.length === 0 ? (
            <p className="text-quiet">Never tested here. Plan the first test.</p>
          ) : (
            <ul className="divide-y divide-line">
              {tests.map(({ test, run, verdict, simulated, at, technician, attempts, certificate }) => (
                <li key={test} className="flex flex-wrap items-center justify-between gap-2 py-2">
                  {run === undefined ? (
                    <VerdictMark verdict={verdict} size={18} />
                  ) : (
                    <To place={{ at: 'verdict', run }} className="hover:underline">
                      <VerdictMark verdict={verdict} size={18} /> {simulated && <Simulated />}
                      <span className="block text-sm text-quiet">
                        {dayText(at)} · {technician}
                        {attempts > 1 && ` · ${attempts} attempts`}
                      </span>
                    </To>
                  )}
                  <a href={`/certificates/test/${test}`} className={`${link} figures text-sm`}>
                    {certificate ?? 'certificate'}
                  </a>
                </li>
              ))}
            </ul>
          )}
        </div>
      </div>
      {open?.what === 'system' && (
        <ChangeThing kind="system" thing={system} title={`Change ${system.name}`} fields={systemFields(system)} close={close} />
      )}
      {open?.what === 'new component' && (
        <AddThing
          kind="component"
          title={`Add a component to ${system.name}`}
          fields={componentFields(blank.component)}
          said={{ systemId: system.id }}
          close={close}
        />
      )}
      {open?.what === 'component' && (
        <ChangeThing kind="component" thing={open.of} title={componentText(open.of)} fields={componentFields(open.of)} close={close} />
      )}
    </section>
  );
}
