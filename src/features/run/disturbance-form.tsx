import { useState } from 'react';
import { type DisturbanceKind, disturbanceKinds, holdsUnderWay, neverWaived, spanOf } from '@/core/judging';
import { thisMoment } from '@/device/log';
import type { OpenRun } from '@/device/use-run';
import { Button } from '@/ui/button';
import { input } from '@/ui/classes';
import { Notice } from '@/ui/notice';
import type { Inner } from './extra-dialog';

interface Held {
  readonly id: string;
  readonly title: string;
  readonly round: number;
  readonly endAt?: number;
}

/** Holds of this round that were read to their end, the open one left out. */
function heldBefore({ run, judgement }: OpenRun, phase: string, holding: boolean): readonly Held[] {
  return judgement.phases.flatMap((state): Held[] => {
    const spec = run.plan.phases.find(({ id }) => id === state.id);
    const { endAt } = spanOf(state);
    return (spec?.kind === 'hold' || spec?.kind === 'measure') && endAt !== undefined && !(holding && state.id === phase)
      ? [{ id: state.id, title: spec.title, round: state.round, endAt }]
      : [];
  });
}

/** Holds that run now: what disturbs one may disturb the other. */
const runningHolds = ({ run, judgement }: OpenRun): readonly Held[] =>
  holdsUnderWay(judgement).flatMap((state): Held[] => {
    const spec = run.plan.phases.find(({ id }) => id === state.id);
    return state.state === 'current' && spec !== undefined ? [{ id: state.id, title: spec.title, round: state.round }] : [];
  });

/** What disturbed a hold: the open one, or one that was over before it was noticed. */
export function Disturbance({ open, close, phase, round, holding }: Inner) {
  const [what, setWhat] = useState<DisturbanceKind>();
  const [text, setText] = useState('');
  const [aside, setAside] = useState('');
  // What is noticed only afterwards still belongs to the hold that it spoilt.
  const held = heldBefore(open, phase, holding);
  const [during, setDuring] = useState<string>();
  const running = runningHolds(open);
  const [spared, setSpared] = useState<readonly string[]>([]);
  const earlier = held.find(({ id }) => id === during);
  const waivable = what !== undefined && !neverWaived.includes(what);
  const kinds = disturbanceKinds.filter((kind) => kind !== (open.run.plan.cautions.smell === undefined ? 'gas used' : 'water drawn'));
  // Outside a hold there is nothing to void and nothing to set aside.
  const spoils = holding || running.length > 0 || earlier !== undefined;
  return (
    <form
      className="space-y-3"
      onSubmit={async (event) => {
        event.preventDefault();
        if (what === undefined) return;
        const now = running.length > 1 ? running.filter(({ id }) => !spared.includes(id)) : [{ id: phase, round }];
        for (const one of earlier === undefined ? now : [earlier]) {
          const written = await open.write(
            { type: 'disturbance', phase: one.id, round: one.round, what, text: text.trim() },
            'endAt' in one && one.endAt !== undefined ? { ...thisMoment(), at: one.endAt } : thisMoment(),
          );
          if (spoils && waivable && aside.trim() !== '')
            await open.write({ type: 'waived', disturbance: written.id, reason: aside.trim() });
        }
        close();
      }}
    >
      {held.length > 0 && (
        <fieldset>
          <legend className="font-medium">When was it?</legend>
          {[{ id: undefined, title: holding ? 'Now, in the open hold' : 'Now, outside a hold' }, ...held].map(({ id, title }) => (
            <label key={title} className="flex min-h-11 cursor-pointer items-center gap-2">
              <input
                type="radio"
                name="during"
                className="size-5 accent-(--action)"
                checked={during === id}
                onChange={() => setDuring(id)}
              />
              {id === undefined ? title : `During “${title}”`}
            </label>
          ))}
        </fieldset>
      )}
      {running.length > 1 && earlier === undefined && (
        <fieldset>
          <legend className="font-medium">Which of them did it disturb?</legend>
          {running.map(({ id, title }) => (
            <label key={id} className="flex min-h-11 cursor-pointer items-center gap-2">
              <input
                type="checkbox"
                className="size-5 accent-(--action)"
                checked={!spared.includes(id)}
                onChange={({ target }) => setSpared(target.checked ? spared.filter((one) => one !== id) : [...spared, id])}
              />
              {title}
            </label>
          ))}
        </fieldset>
      )}
      {!holding && earlier === undefined && <Notice>No hold runs now; this is kept in the log and voids nothing.</Notice>}
      <fieldset className="grid grid-cols-2 gap-1.5">
        <legend className="sr-only">Kind of disturbance</legend>
        {kinds.map((kind) => (
          <label
            key={kind}
            className={`flex min-h-12 cursor-pointer items-center gap-2 border px-3 ${what === kind ? 'border-2 border-action bg-surface' : 'border-line'}`}
          >
            <input type="radio" name="what" className="size-5 accent-(--action)" checked={what === kind} onChange={() => setWhat(kind)} />
            <span className="first-letter:uppercase">{kind}</span>
          </label>
        ))}
      </fieldset>
      <label className="block font-medium">
        In a few words (may stay empty)
        <input className={`${input} mt-1 font-normal`} value={text} onChange={(event) => setText(event.target.value)} />
      </label>
      {spoils && waivable && (
        <label className="block font-medium">
          Reason to set it aside (leave empty to void the hold)
          <input className={`${input} mt-1 font-normal`} value={aside} onChange={(event) => setAside(event.target.value)} />
        </label>
      )}
      {spoils && what !== undefined && !waivable && (
        <p className="text-sm text-quiet">This can never be set aside: the hold will be void and must be restarted.</p>
      )}
      <Button
        type="submit"
        size="great"
        className="w-full"
        disabled={what === undefined || (earlier === undefined && running.length > 1 && running.every(({ id }) => spared.includes(id)))}
      >
        Write it down
      </Button>
    </form>
  );
}
