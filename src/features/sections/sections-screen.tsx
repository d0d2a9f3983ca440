'use client';

import { useEffect, useState } from 'react';
import { firstSections, likelihoods, rowOf, type SectionFault, type SectionRow, sectionFaults, sectionsOf, without } from '@/core/locating';
import { newId } from '@/features/field/clock';
import { useField } from '@/features/field/field';
import { FieldHeader } from '@/features/field/field-header';
import { Schematic } from '@/features/sites/schematic';
import type { KitSystem } from '@/server/field';
import { button, heading, quietButton } from '@/ui/classes';
import { KeyHint } from '@/ui/key-hint';
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
const startOf = (system: KitSystem | undefined): readonly SectionRow[] =>
  system === undefined ? [] : (system.sections.length > 0 ? system.sections : firstSections(system.kind, [])).map(rowOf);

/** What a system's parts are: each that can be shut off, its joints, its years, and whether anybody can see it. */
export function SectionsScreen({ systemId, done }: { readonly systemId: string; readonly done: () => void }) {
  const { kit, keepSections } = useField();
  const system = kit.systems.find(({ id }) => id === systemId);
  const [rows, setRows] = useState<readonly SectionRow[]>(() => readRows(systemId) ?? startOf(system));
  const [shown, setShown] = useState(false);
  useEffect(() => sessionStorage.setItem(draftOf(systemId), JSON.stringify(rows)), [systemId, rows]);
  useButtonKeys();
  if (system === undefined)
    return (
      <main className="mx-auto max-w-xl p-6">
        <h1 className={heading}>This system is not here</h1>
        <p className="mt-2 text-quiet">It is not on this device. Open its site once with signal.</p>
      </main>
    );
  const faults = sectionFaults(rows);
  const leave = () => {
    sessionStorage.removeItem(draftOf(systemId));
    done();
  };
  const save = async () => {
    setShown(true);
    if (faults.length > 0) return document.querySelector<HTMLElement>('[aria-invalid=true]')?.focus();
    await keepSections(systemId, sectionsOf(rows));
    leave();
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
    <main className="mx-auto max-w-6xl px-4 pb-16 pt-3">
      <FieldHeader place={`${system.site.name} · ${system.name}`} title="Sections">
        <p className="text-quiet">What a valve, plug or joint can shut off. A leak is looked for by joints and years first.</p>
      </FieldHeader>
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
            <button type="button" className={`${quietButton} min-h-12`} aria-keyshortcuts="n" onClick={add}>
              Add a section <KeyHint of="N" />
            </button>
            <span className="grow" />
            <button type="button" className={`${quietButton} min-h-12`} onClick={leave}>
              Leave it as it was
            </button>
            <button type="submit" className={`${button} min-h-12`} aria-keyshortcuts="s">
              Save the sections <KeyHint of="S" plain />
            </button>
          </div>
        </form>
      </div>
    </main>
  );
}
