'use client';

import { useMemo } from 'react';
import { firstSections, type Section, searchLog } from '@/core/locating';
import { useDevice } from '@/device/provider';
import { useLive } from '@/device/use-live';
import type { OpenRun } from '@/device/use-run';
import { LookForm } from '@/features/locate/look-form';
import { Disclosure } from '@/ui/disclosure';

/** The joints that are soaped or looked at while it holds, part by part; a leak that is found overrides any gauge. */
export function JointsLookedAt({ open }: { readonly open: OpenRun }) {
  const { store } = useDevice();
  const { run, test, events, judgement, mayWrite, write } = open;
  const system = useLive(store, ({ systems }) => systems.get(test.systemId), [test.systemId]);
  const log = useMemo(() => searchLog(run.plan, judgement, events), [run.plan, judgement, events]);
  const sections: readonly Section[] = system?.sections.length ? system.sections : firstSections(system?.kind ?? 'component', []);
  const dry = (id: string) => log.looked.some(({ section, leak }) => section === id && !leak);
  const done = sections.filter(({ id }) => dry(id)).length;
  const next = sections.find(({ id }) => !dry(id)) ?? sections[0];
  if (system === undefined) return null;
  return (
    <Disclosure
      look="min-h-12 py-2 font-medium"
      title={
        <>
          Joints looked at <span className="figures text-sm text-quiet">{`${done} of ${sections.length}`}</span>
        </>
      }
    >
      <ul className="mb-2 columns-2 text-sm">
        {sections.map(({ id, name, joints }) => (
          <li key={id} className={dry(id) ? 'text-quiet' : ''}>
            {name}
            {joints === undefined ? '' : `, ${joints} ${joints === 1 ? 'joint' : 'joints'}`}
            {dry(id) && <b className="text-action"> dry</b>}
          </li>
        ))}
      </ul>
      <LookForm
        key={next?.id}
        sections={sections}
        suggested={next?.id ?? ''}
        kind={system.kind}
        mayMove={mayWrite}
        write={write}
        keys={false}
      />
    </Disclosure>
  );
}
