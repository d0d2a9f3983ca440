import Link from 'next/link';
import type { Site, System } from '@/server/sites';
import type { Listed } from '@/server/standing';
import { button, heading, link, quietButton, subheading } from '@/ui/classes';
import { Simulated } from '@/ui/notice';
import { VerdictMark } from '@/ui/verdict-mark';
import { dayText } from '@/ui/when';
import { AddSystem } from './add-system';
import { Schematic } from './schematic';

/** A site: its systems with schematic, components and history. */
export function SiteScreen({
  site,
  systems,
}: {
  readonly site: Site;
  readonly systems: readonly { readonly system: System; readonly tests: readonly Listed[] }[];
}) {
  return (
    <div className="space-y-8">
      <header>
        <p className="text-sm text-quiet">
          <Link href="/sites" className="underline">
            Sites
          </Link>
        </p>
        <h1 className={heading}>{site.name}</h1>
        <p className="text-quiet">
          {site.address}
          {site.occupier !== '' && ` · ${site.occupier}`}
        </p>
        {systems.length > 1 && (
          <a href={`/field?day=${site.id}`} className={`${quietButton} mt-2`}>
            Lay out the day
          </a>
        )}
      </header>
      {systems.map(({ system, tests }) => (
        <section key={system.id} className="border-t border-line pt-4" aria-labelledby={system.id}>
          <div className="flex flex-wrap items-center justify-between gap-3">
            <h2 id={system.id} className={subheading}>
              {system.name}
            </h2>
            <a href={`/field?system=${system.id}`} className={button}>
              Plan a test
            </a>
          </div>
          <div className="mt-3 grid gap-6 md:grid-cols-2">
            <div>
              <Schematic sections={system.sections} name={system.name} />
              <a href={`/field?system=${system.id}&view=sections`} className="inline-flex min-h-11 items-center text-sm underline">
                Change the sections
              </a>
              <p className="figures mt-2 text-sm text-quiet">
                {system.pipes.split('\n').join(' · ') || (system.statedVolume === '' ? '' : `stated ${system.statedVolume}`)}
              </p>
              <ul className="mt-1 text-sm text-quiet">
                {system.components.map((component) => (
                  <li key={component}>{component}</li>
                ))}
              </ul>
            </div>
            <div>
              {tests.length === 0 ? (
                <p className="text-quiet">Never tested here. Plan the first test.</p>
              ) : (
                <ul className="divide-y divide-line">
                  {tests.map(({ testId, runId, verdict, simulated, createdAt, technician, attempts, certificate }) => (
                    <li key={testId} className="flex flex-wrap items-center justify-between gap-2 py-2">
                      <a href={`/field?run=${runId}&view=verdict`} className="hover:underline">
                        <VerdictMark verdict={verdict} size={18} /> {simulated && <Simulated />}
                        <span className="block text-sm text-quiet">
                          {dayText(createdAt)} · {technician}
                          {attempts > 1 && ` · ${attempts} attempts`}
                        </span>
                      </a>
                      <Link href={`/certificates/test/${testId}`} className={`${link} figures text-sm`}>
                        {certificate ?? 'certificate'}
                      </Link>
                    </li>
                  ))}
                </ul>
              )}
            </div>
          </div>
        </section>
      ))}
      {systems.length === 0 && <p className="text-quiet">No systems yet. Add the first one, then plan its test.</p>}
      <AddSystem siteId={site.id} />
    </div>
  );
}
