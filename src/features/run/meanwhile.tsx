'use client';

import dynamic from 'next/dynamic';
import type { CheckPhase } from '@/core/course';
import { duesOf, guardText } from '@/core/judging';
import type { OpenRun } from '@/device/use-run';
import { Button } from '@/ui/button';
import { Disclosure } from '@/ui/disclosure';
import { Photograph, photographsOf } from './photographs';
import type { Now } from './run-model';

const Occupier = dynamic(() => import('./occupier').then((module) => module.Occupier), { ssr: false });
const ApplianceRound = dynamic(() => import('./appliance-round').then((module) => module.ApplianceRound), { ssr: false });
const JointsLookedAt = dynamic(() => import('./joints-looked-at').then((module) => module.JointsLookedAt), { ssr: false });
const CheckPanel = dynamic(() => import('./check-panel').then((module) => module.CheckPanel), { ssr: false });

/** Lists that are gone through beside the clock of a hold. */
const besideOf = ({ run, judgement }: OpenRun, phase: string | undefined): readonly CheckPhase[] =>
  run.plan.phases.filter(
    (one): one is CheckPhase =>
      one.kind === 'check' &&
      one.alongside !== undefined &&
      one.alongside === phase &&
      judgement.phases.some(({ id, state }) => id === one.id && (state === 'beside' || state === 'waiting' || state === 'done')),
  );

/** What can be done while it stands, and the pictures that prove it: what is held is not touched. */
export function Meanwhile({
  open,
  present: { phase, holding, settlingUntil },
  setDialog,
}: {
  readonly open: OpenRun;
  readonly present: Now;
  readonly setDialog: (dialog: string) => void;
}) {
  const { run, events, judgement, hasPen, write } = open;
  const { plan } = run;
  const waiting = holding || settlingUntil !== undefined;
  const dueAt = duesOf(plan, judgement)[0]?.at;
  const lists = waiting ? besideOf(open, phase?.id) : [];
  const evidence = plan.evidence ?? [];
  const photos = photographsOf(events);
  const taken = evidence.filter(({ id }) => photos.some(({ slot }) => slot === id)).length;
  return (
    <section aria-label="Meanwhile" className="space-y-2">
      {waiting && <Occupier plan={plan} judgement={judgement} dueAt={dueAt} />}
      {lists.map((list) => {
        const state = judgement.phases.find(({ id }) => id === list.id);
        return state === undefined ? null : (
          <Disclosure key={list.id} open title={<b>{list.title}</b>}>
            <CheckPanel
              run={run.id}
              phase={list}
              state={state}
              mayMove={hasPen}
              gauge={plan.gauge}
              answer={(item, as, text) => write({ type: 'check', phase: list.id, round: state.round, item: item.id, state: as, text })}
              readGuard={async (item, value, celsius) => {
                const { unit } = plan.gauge;
                await write({ type: 'guard', value, unit, source: 'keypad', celsius });
                await write({
                  type: 'check',
                  phase: list.id,
                  round: state.round,
                  item: item.id,
                  state: 'done',
                  text: guardText(value, unit, celsius),
                });
              }}
            />
          </Disclosure>
        );
      })}
      {holding && phase?.kind === 'hold' && phase.purpose === 'tightness' && <JointsLookedAt open={open} />}
      {plan.round !== undefined && <ApplianceRound open={open} setDialog={setDialog} />}
      {evidence.length > 0 && (
        <Disclosure
          look="min-h-12 py-2 font-medium"
          title={
            <>
              Pictures <span className="figures text-sm text-quiet">{`${taken} of ${evidence.length}`}</span>
            </>
          }
        >
          <ul className="mt-1 space-y-2">
            {evidence.map(({ id, label }) => {
              const own = photos.filter(({ slot }) => slot === id);
              return (
                <li key={id} className="flex flex-wrap items-center justify-between gap-2">
                  {own.length === 0 ? (
                    <span>{label}</span>
                  ) : (
                    <span className="flex flex-wrap gap-2">
                      {own.map((photo) => (
                        <Photograph key={photo.id} photo={photo} label={label} />
                      ))}
                    </span>
                  )}
                  <Button tone="quiet" size="tall" aria-label={`Photograph: ${label}`} onClick={() => setDialog(`photo ${id}`)}>
                    {own.length === 0 ? 'Photograph' : 'Another'}
                  </Button>
                </li>
              );
            })}
            {photos
              .filter(({ slot }) => !evidence.some(({ id }) => id === slot))
              .map((photo) => (
                <li key={photo.id}>
                  <Photograph photo={photo} label="Photograph" />
                </li>
              ))}
          </ul>
          <Button tone="bare" size="tall" onClick={() => setDialog('clock')}>
            Clock card, to hold beside the gauge
          </Button>
        </Disclosure>
      )}
    </section>
  );
}
