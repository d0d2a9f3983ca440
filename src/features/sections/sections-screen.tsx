'use client';

import { useEffect, useState } from 'react';
import { firstSections, likelihoods, rowOf, type SectionFault, type SectionRow, sectionFaults, sectionsOf, without } from '@/core/locating';
import { changing, type Thing } from '@/core/register';
import { newId } from '@/device/clock';
import { useDevice } from '@/device/provider';
import { useLive } from '@/device/use-live';
import { Absent, Page } from '@/features/frame/page';
import type { Place } from '@/features/frame/places';
import { SignalLine } from '@/features/frame/signal-line';
import { To } from '@/features/frame/source';
import { Schematic } from '@/features/sites/schematic';
import { useChanges } from '@/features/things/thing-dialog';
import { Button } from '@/ui/button';
import { link } from '@/ui/classes';
import { useButtonKeys } from '@/ui/use-shortcuts';
import { SectionFields } from './section-fields';

const draftOf = (systemId: string) => `vast-stone-sections-${systemId}`;

function readRows(systemId: string): readonly SectionRow[] | undefined {
  try {
    const kept = JSON.parse(sessionStorage.getItem(draftOf(systemId)) ?? 'null');
    return Array.isArray(kept) ? kept : undefined;
  } catch {
    return undefined;
  }
}

/** Its sections as they are known; what its kind begins with where nobody has written any. */
const startOf = (system: Thing<'system'>): readonly SectionRow[] =>
  (system.sections.length > 0 ? system.sections : firstSections(system.kind, [])).map(rowOf);

/** What a system's parts are: each that can be shut off, its joints, its years, and whether anybody can see it. */
export function SectionsScreen({ place, go }: { readonly place: Extract<Place, { at: 'sections' }>; readonly go: (place: Place) => void }) {
  const { store } = useDevice();
  const found = useLive(
    store,
    async ({ systems, sites }) => {
      const system = await systems.get(place.system);
      return system === undefined ? 'absent' : { system, site: await sites.get(system.siteId) };
    },
    [place.system],
  );
  if (found === undefined) return <p className="p-6 text-quiet">Opening the sections…</p>;
  if (found === 'absent')
    return (
      <Absent
        title="This system is not here"
        back={
          <To place={{ at: 'sites' }} className={link}>
            Sites
          </To>
        }
      >
        It is not on this device. Open its site once with signal.
      </Absent>
    );
  const { system, site } = found;
  // Back to the search, or to the site that it was opened from.
  const done = () => go(place.run === undefined ? { at: 'site', site: system.siteId } : { at: 'locate', run: place.run });
  return <SectionsOf system={system} siteName={site?.name ?? ''} done={done} />;
}

function SectionsOf({
  system,
  siteName,
  done,
}: {
  readonly system: Thing<'system'>;
  readonly siteName: string;
  readonly done: () => void;
}) {
  const keep = useChanges();
  const { id: systemId } = system;
  const [rows, setRows] = useState<readonly SectionRow[]>(() => readRows(systemId) ?? startOf(system));
  const [shown, setShown] = useState(false);
  useEffect(() => sessionStorage.setItem(draftOf(systemId), JSON.stringify(rows)), [systemId, rows]);
  useButtonKeys();
  const faults = sectionFaults(rows);
  const leave = () => {
    sessionStorage.removeItem(draftOf(systemId));
    done();
  };
  const save = async () => {
    setShown(true);
    if (faults.length > 0) return document.querySelector<HTMLElement>('[aria-invalid=true]')?.focus();
    const change = changing('system', system, { sections: sectionsOf(rows) });
    if (change === undefined || (await keep([change], 'Sections saved')) === undefined) leave();
  };
  const add = () => {
    const id = newId();
    setRows([
      ...rows,
      { id, ...(rows[0] === undefined ? {} : { parent: rows[0].id }), name: '', joints: '', age: '', minutes: '', hidden: false },
    ]);
    setTimeout(() => document.getElementById(`${id}-name`)?.focus());
  };
  // The picture shows what stands, as far as it is right.
  const right = rows.filter(({ id }) => !faults.some(({ row, field }) => row === id && field === 'parent'));
  const drawn = sectionsOf(
    right.map((row) => (faults.some((fault) => fault.row === row.id) ? { ...row, joints: '', age: '', minutes: '' } : row)),
  );
  return (
    <Page
      width="whole"
      trail={`${siteName} · ${system.name}`}
      title="Sections"
      line="What a valve, plug or joint can shut off. A leak is looked for by joints and years first."
      signal={<SignalLine />}
    >
      <div className="grid gap-8 lg:grid-cols-[minmax(0,1fr)_minmax(0,1.35fr)]">
        <section aria-label="Schematic" className="min-w-0">
          <Schematic sections={drawn} name={system.name} likelihood={likelihoods(drawn, [], [])} />
          <p className="mt-1 text-sm text-quiet">The darker a section, the likelier a leak is there before anybody has looked.</p>
        </section>
        <form
          aria-label="Sections"
          noValidate
          onSubmit={(event) => {
            event.preventDefault();
            save();
          }}
        >
          <ol className="divide-y divide-line border-y border-line">
            {rows.map((row, index) => (
              <SectionFields
                key={row.id}
                row={row}
                rows={rows}
                root={index === 0}
                faults={shown ? faults.filter((fault: SectionFault) => fault.row === row.id) : []}
                change={(part) => setRows(rows.map((one) => (one.id === row.id ? { ...one, ...part } : one)))}
                remove={() => setRows(without(rows, row.id))}
              />
            ))}
          </ol>
          <div className="mt-3 flex flex-wrap gap-2">
            <Button tone="quiet" size="tall" shortcut="n" onClick={add}>
              Add a section
            </Button>
            <span className="grow" />
            <Button tone="quiet" size="tall" onClick={leave}>
              Leave it as it was
            </Button>
            <Button type="submit" size="tall" shortcut="s">
              Save the sections
            </Button>
          </div>
        </form>
      </div>
    </Page>
  );
}
