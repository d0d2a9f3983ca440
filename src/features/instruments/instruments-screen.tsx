'use client';

import { useRouter } from 'next/navigation';
import { type UnitKind, unitLabel, unitsOf } from '@/core/quantities';
import { rigWords } from '@/core/sizing';
import type { KeptInstrument } from '@/server/instruments';
import { heading, subheading } from '@/ui/classes';
import { Simulated } from '@/ui/notice';
import { SimpleForm } from '@/ui/simple-form';

/** What an instrument may show, in words. */
const shown: readonly (readonly [UnitKind, string])[] = [
  ['pressure', 'pressure'],
  ['flow', 'flow'],
  ['volume', 'volume'],
  ['length', 'level'],
  ['turns', 'meter dial'],
  ['temperature', 'pipe temperature'],
];

/** The firm's gauges and other instruments, when each is due, and its calibrations. */
export function InstrumentsScreen({
  instruments,
  mayEdit,
}: {
  readonly instruments: readonly KeptInstrument[];
  readonly mayEdit: boolean;
}) {
  const router = useRouter();
  return (
    <div className="space-y-8">
      <h1 className={heading}>Instruments</h1>
      {instruments.length === 0 && (
        <p className="text-quiet">No instruments yet. Add the first one below: a plan needs one to say what the test can see.</p>
      )}
      <ul className="divide-y divide-line border-y border-line">
        {instruments.map(({ instrument: kept, calibrations, dueInDays }) => (
          <li key={kept.id} className="grid gap-x-6 gap-y-2 py-4 md:grid-cols-[1fr_16rem]">
            <div>
              <h2 className="flex flex-wrap items-center gap-2 text-lg font-semibold">
                {kept.name} {kept.simulated && <Simulated />}
              </h2>
              <p className="figures text-sm text-quiet">
                {kept.serial} · {kept.kind} · steps of {kept.readability} {unitLabel(kept.unit)} · {kept.rangeLow} to {kept.rangeHigh}{' '}
                {unitLabel(kept.unit)}
              </p>
              {kept.rigCheck !== undefined && (
                <p className={`mt-1 text-sm ${kept.rigCheck.what === 'does not hold' ? 'text-stop' : 'text-quiet'}`}>
                  Rig check: its rig {rigWords(kept.rigCheck)}
                </p>
              )}
              {calibrations.length > 0 && (
                <ul className="mt-1 text-sm text-quiet">
                  {calibrations.map(({ id, doneOn, dueOn, reference }) => (
                    <li key={id}>
                      Calibrated <span className="figures">{doneOn}</span>, valid to <span className="figures">{dueOn}</span> ({reference})
                    </li>
                  ))}
                </ul>
              )}
            </div>
            <div>
              <p className="font-medium">
                {!kept.calibration.needed ? (
                  'Needs no calibration'
                ) : dueInDays === undefined ? (
                  <span className="text-stop">No calibration on file: tests would be invalid</span>
                ) : dueInDays < 0 ? (
                  <span className="text-stop">Overdue by {-dueInDays} days: tests would be invalid</span>
                ) : (
                  <span className={dueInDays <= 30 ? 'text-caution' : ''}>Due in {dueInDays} days</span>
                )}
              </p>
              {mayEdit && kept.calibration.needed && (
                <details className="mt-1">
                  <summary className="text-sm underline">Record a calibration</summary>
                  <div className="mt-2">
                    <SimpleForm
                      route="POST /api/instruments/[id]/calibrations"
                      parts={{ id: kept.id }}
                      submit="Record it"
                      done={() => router.refresh()}
                      fields={[
                        { name: 'doneOn', label: 'Calibrated on', kind: 'date' },
                        { name: 'dueOn', label: 'Next due', kind: 'date' },
                        { name: 'reference', label: 'Certificate’s reference' },
                      ]}
                    />
                  </div>
                </details>
              )}
            </div>
          </li>
        ))}
      </ul>
      {mayEdit ? (
        <details className="max-w-xl">
          <summary className={subheading}>Add an instrument</summary>
          <div className="mt-3">
            <SimpleForm
              route="POST /api/instruments"
              submit="Add it"
              done={() => router.refresh()}
              fields={[
                { name: 'name', label: 'Name', help: 'As you call it on site: “Van 1 digital”.' },
                {
                  name: 'kind',
                  label: 'Kind',
                  kind: 'choice',
                  initial: 'digital',
                  options: [
                    { value: 'digital', label: 'Digital' },
                    { value: 'liquid', label: 'Liquid column' },
                    { value: 'needle', label: 'Needle' },
                    { value: 'scale', label: 'Rule, vessel or dial' },
                    { value: 'barometer', label: 'Barometer' },
                  ],
                },
                {
                  name: 'unit',
                  label: 'Unit',
                  kind: 'choice',
                  initial: 'mbar',
                  options: shown.flatMap(([kind, what]) =>
                    unitsOf(kind).map((value) => ({ value, label: `${unitLabel(value)} (${what})` })),
                  ),
                },
                { name: 'readability', label: 'Smallest movement that it shows', help: 'The last digit, or half the smallest division.' },
                { name: 'rangeLow', label: 'Range from', initial: '0' },
                { name: 'rangeHigh', label: 'Range to' },
                { name: 'serial', label: 'Serial number' },
                {
                  name: 'calibrationNeeded',
                  label: 'Needs calibration (a liquid column of known density, a rule or a vessel does not)',
                  kind: 'check',
                  initial: true,
                },
              ]}
            />
          </div>
        </details>
      ) : (
        <p className="text-sm text-quiet">Supervisors and office staff add instruments and record calibrations.</p>
      )}
    </div>
  );
}
