import { unitLabel } from '@/core/quantities';
import { dueText } from '@/core/sizing';
import { Disclosure } from '@/ui/disclosure';
import { Simulated } from '@/ui/notice';
import type { Offered } from './suited';

const mostShown = 3;

/** The van's instruments for one part of the plan: the best three, the rest folded, and on request why others do not suit. */
export function InstrumentChoice({
  name,
  label,
  offered,
  chosenId,
  choose,
  advise,
  none,
  planned,
}: {
  readonly name: string;
  readonly label: string;
  readonly offered: readonly Offered[];
  readonly chosenId: string;
  readonly choose: (id: string) => void;
  /** About one that would do but is not the best choice. */
  readonly advise?: (one: Offered['instrument']) => string | undefined;
  /** Said where there is nothing to choose from. */
  readonly none: string;
  /** Whether there is a plan to suit; until then they only read what is to be read. */
  readonly planned: boolean;
}) {
  const suited = offered.filter(({ faults }) => faults.length === 0);
  const best = suited.slice(0, mostShown);
  const chosen = offered.find(({ instrument }) => instrument.id === chosenId);
  const shown = chosen === undefined || best.includes(chosen) ? best : [chosen, ...best.slice(0, mostShown - 1)];
  const more = suited.filter((one) => !shown.includes(one));
  const others = offered.filter((one) => one.faults.length > 0 && !shown.includes(one));
  const row = (one: Offered) => (
    <One key={one.instrument.id} name={name} offered={one} chosen={one.instrument.id === chosenId} choose={choose} advise={advise} />
  );
  return (
    <fieldset>
      <legend className="font-medium">{label}</legend>
      <div className="mt-1 space-y-1.5">{shown.map(row)}</div>
      {suited.length === 0 && shown.length === 0 && (
        <p className="text-sm font-medium text-stop">{offered.length === 0 ? none : 'None of the van’s suits this plan.'}</p>
      )}
      <div className="flex flex-wrap gap-x-6">
        {more.length > 0 && (
          <Disclosure
            title={planned ? (more.length === 1 ? 'One more suits' : `${more.length} more suit`) : `${more.length} more`}
            className="text-sm"
          >
            <div className="space-y-1.5 text-base">{more.map(row)}</div>
          </Disclosure>
        )}
        {others.length > 0 && (
          <Disclosure title={others.length === 1 ? 'One does not suit: why' : `${others.length} do not suit: why`} className="text-sm">
            <div className="space-y-1.5 text-base">{others.map(row)}</div>
          </Disclosure>
        )}
      </div>
    </fieldset>
  );
}

function One({
  name,
  offered: { instrument, faults },
  chosen,
  choose,
  advise,
}: {
  readonly name: string;
  readonly offered: Offered;
  readonly chosen: boolean;
  readonly choose: (id: string) => void;
  readonly advise: ((one: Offered['instrument']) => string | undefined) | undefined;
}) {
  const advice = faults.length === 0 ? advise?.(instrument) : undefined;
  return (
    <label
      className={`flex min-h-12 cursor-pointer items-center gap-3 rounded-[3px_10px_3px_3px] border px-3 py-1 leading-tight ${chosen ? 'border-2 border-action bg-surface' : 'border-line'}`}
    >
      <input
        type="radio"
        name={name}
        className="size-5 shrink-0 accent-(--action)"
        checked={chosen}
        onChange={() => choose(instrument.id)}
      />
      <span className="min-w-0">
        <span className="flex flex-wrap items-center gap-2 font-medium">
          {instrument.name} {instrument.simulated && <Simulated />}
        </span>
        <span className="figures text-sm text-quiet">
          steps of {instrument.readability} {unitLabel(instrument.unit)} · to {instrument.rangeHigh} · {dueText(instrument)}
        </span>
        {faults.map((fault) => (
          <span key={fault} className="block text-sm font-medium text-stop">
            Does not fit: {fault}
          </span>
        ))}
        {advice !== undefined && <span className="block text-sm text-caution">{advice}</span>}
      </span>
    </label>
  );
}
