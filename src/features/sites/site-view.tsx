'use client';

import { type ReactNode, useState } from 'react';
import { firstSections } from '@/core/locating';
import { systemKindWords } from '@/core/procedures';
import { blank, componentsFrom, componentText, type History, type KeptClash, making, type Said, type Thing } from '@/core/register';
import { newId } from '@/device/clock';
import { today } from '@/device/use-ground';
import { useToday } from '@/device/use-today';
import { Page } from '@/features/frame/page';
import { To, useSource } from '@/features/frame/source';
import { newSystemFields, siteFields, tidied } from '@/features/things/fields';
import { AddThing, ChangeThing } from '@/features/things/thing-dialog';
import { Button, buttonLook } from '@/ui/button';
import { link, subheading } from '@/ui/classes';
import { Row, Rows } from '@/ui/list-row';
import { weekday } from '@/ui/when';
import { Clashes } from './clashes';
import { SystemCard } from './system-card';
import { Twins } from './twins';

export interface SiteData {
  readonly site: Thing<'site'>;
  readonly systems: readonly {
    readonly system: Thing<'system'>;
    readonly components: readonly Thing<'component'>[];
    readonly tests: readonly History[];
  }[];
  readonly visits: readonly Thing<'visit'>[];
  readonly people: readonly { readonly id: string; readonly name: string }[];
  /** Fields of this site and of what belongs to it that two people changed. */
  readonly clashes: readonly KeptClash[];
  /** Sites that may be this one, made twice. */
  readonly twins: readonly Thing<'site'>[];
}

type Open = 'site' | 'system' | undefined;

/** A site: its visits, its systems with schematic, components and history. */
export function SiteView({ data, signal, kept }: { readonly data: SiteData; readonly signal?: ReactNode; readonly kept?: ReactNode }) {
  const { site, systems, visits, people } = data;
  const [open, setOpen] = useState<Open>();
  const [away, setAway] = useState(false);
  const inUse = systems.filter(({ system }) => !system.putAway);
  const shown = away ? systems : inUse;
  return (
    <Page
      trail={
        <To place={{ at: 'sites' }} className="underline">
          Sites
        </To>
      }
      title={site.name}
      line={
        <>
          {site.address}
          {site.occupier !== '' && ` · ${site.occupier}`}
          {site.access !== '' && <span className="block text-sm">Getting in: {site.access}</span>}
        </>
      }
      signal={signal}
      actions={
        <>
          {kept}
          <Button tone="quiet" shortcut="e" onClick={() => setOpen('site')}>
            Change the site
          </Button>
        </>
      }
    >
      <div className="space-y-8">
        {site.putAway && <p className="border-l-4 border-caution bg-surface px-3 py-2">This site is put away. Its history stays.</p>}
        <Twins site={site} twins={data.twins} />
        <Clashes data={data} />
        <Visits site={site} visits={visits} people={people} />
        {shown.map(({ system, components, tests }) => (
          <SystemCard key={system.id} system={system} components={components} tests={tests} />
        ))}
        {inUse.length === 0 && <p className="text-quiet">No systems yet. Add the first one, then plan its test.</p>}
        <div className="flex flex-wrap gap-3 border-t border-line pt-4">
          <Button tone={inUse.length === 0 ? 'action' : 'quiet'} size="tall" shortcut="n" onClick={() => setOpen('system')}>
            Add a system
          </Button>
          {systems.length > inUse.length && (
            <Button tone="bare" onClick={() => setAway(!away)}>
              {away ? 'Hide what is put away' : `${systems.length - inUse.length} put away: show`}
            </Button>
          )}
        </div>
      </div>
      {open === 'site' && (
        <ChangeThing kind="site" thing={site} title="Change the site" fields={siteFields(site)} close={() => setOpen(undefined)} />
      )}
      {open === 'system' && <AddSystem siteId={site.id} close={() => setOpen(undefined)} />}
    </Page>
  );
}

function AddSystem({ siteId, close }: { readonly siteId: string; readonly close: () => void }) {
  const parts = (values: Readonly<Record<string, unknown>>) => componentsFrom(String(values[`parts-${String(values.kind)}`] ?? ''));
  return (
    <AddThing
      kind="system"
      title="Add a system"
      fields={newSystemFields}
      said={{ siteId }}
      close={close}
      shape={(values): Partial<Said<'system'>> => {
        const said = tidied('system', values);
        // A kind that nobody chose is no kind: the fault stands at its question.
        if (said.kind === undefined || !Object.hasOwn(systemKindWords, said.kind)) return { ...said, kind: '' as never };
        return {
          ...said,
          sections: firstSections(
            said.kind,
            parts(values).map((one) => componentText({ ...blank.component, ...one })),
          ),
        };
      }}
      more={(values, systemId) => parts(values).map((one) => making('component', newId(), { ...one, systemId }))}
    />
  );
}

/** Who comes when, and to do what. */
function Visits({
  site,
  visits,
  people,
}: {
  readonly site: Thing<'site'>;
  readonly visits: readonly Thing<'visit'>[];
  readonly people: SiteData['people'];
}) {
  const { change, person, go, hrefOf } = useSource();
  const on = useToday();
  const coming = visits.filter((visit) => !visit.putAway && on !== undefined && visit.on >= on).sort((a, b) => (a.on < b.on ? -1 : 1));
  const names = (ids: readonly string[]) =>
    ids.length === 0 ? 'whoever is free' : ids.map((id) => people.find((one) => one.id === id)?.name ?? 'somebody').join(', ');
  const make = async () => {
    const id = newId();
    const problem = await change([
      making('visit', id, { siteId: site.id, on: today(), people: person.role === 'office' ? [] : [person.userId] }),
    ]);
    if (problem === undefined && !go({ at: 'visit', visit: id })) location.assign(hrefOf({ at: 'visit', visit: id }));
  };
  return (
    <section aria-labelledby="visits">
      <div className="flex flex-wrap items-center justify-between gap-3">
        <h2 id="visits" className={subheading}>
          Visits
        </h2>
        <Button tone="quiet" shortcut="v" onClick={make}>
          Plan a visit
        </Button>
      </div>
      {coming.length === 0 ? (
        <p className="text-quiet">None planned. A visit gathers the tests of one day, and lays them out side by side.</p>
      ) : (
        <Rows>
          {coming.map((visit) => (
            <Row
              key={visit.id}
              title={
                <>
                  <b>{weekday(visit.on)}</b> {visit.begins}
                </>
              }
              more={`${names(visit.people)} · ${visit.tests.length === 1 ? 'one test' : `${visit.tests.length} tests`}`}
            >
              <To place={{ at: 'visit', visit: visit.id }} className={visit.on === on ? buttonLook('quiet') : link}>
                {visit.on === on ? 'Today' : 'Open'}
              </To>
            </Row>
          ))}
        </Rows>
      )}
    </section>
  );
}
