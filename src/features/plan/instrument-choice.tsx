import { unitLabel } from '@/core/quantities';
import { dueText } from '@/core/sizing';
import { Simulated } from '@/ui/notice';
import type { Offered } from './suited';

/** The van's instruments for one part of the plan: those that suit, and on request why the others do not. */
export function InstrumentChoice({
  name,
  label,
  offered,
  chosenId,
  choose,
  advise,
  none,
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
}) {
  const shown = offered.filter(({ faults, instrument }) => faults.length === 0 || instrument.id === chosenId);
  const others = offered.filter((one) => !shown.includes(one));
  const row = (one: Offered) => (
    <Choice key={one.instrument.id} name={name} offered={one} chosen={one.instrument.id === chosenId} choose={choose} advise={advise} />
  );
  return (
    <fieldset>
      <legend className="font-medium">{label}</legend>
      <div className="mt-1 space-y-2">{shown.map(row)}</div>
      {shown.length === 0 && (
        <p className="text-sm font-medium text-stop">{offered.length === 0 ? none : 'None of the van’s suits this plan.'}</p>
      )}
      {others.length > 0 && (
        <details className="mt-2">
          <summary className="text-sm text-quiet underline">
            {others.length} other{others.length === 1 ? ' does' : 's do'} not suit: see why
          </summary>
          <div className="mt-2 space-y-2">{others.map(row)}</div>
        </details>
      )}
    </fieldset>
  );
}

function Choice({
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
      className={`flex cursor-pointer gap-3 border px-3 py-2 ${chosen ? 'border-2 border-action bg-surface' : 'border-line'} rounded-[3px_10px_3px_3px]`}
    >
      <input
        type="radio"
        name={name}
        className="mt-1 size-5 shrink-0 accent-(--action)"
        checked={chosen}
        onChange={() => choose(instrument.id)}
      />
      <span className="min-w-0">
        <span className="flex flex-wrap items-center gap-2 font-medium">
          {instrument.name} {instrument.simulated && <Simulated />}
        </span>
        <span className="figures text-sm text-quiet">
          steps of {instrument.readability} {unitLabel(instrument.unit)} · {dueText(instrument)}
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
