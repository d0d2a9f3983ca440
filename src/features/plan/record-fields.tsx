import { flushSync } from 'react-dom';
import { input } from '@/ui/classes';
import { Disclosure } from '@/ui/disclosure';
import { Field } from '@/ui/field';
import type { Draft } from './use-draft';

/** How long a text of the record may be. */
const most = { jobOrigin: 200, meterNumber: 60, meterReading: 60 } as const;
type Text = keyof typeof most;

/** Opens and points at the first text that could not be kept as it is; false where there is none. */
export function pointAtTooLong(draft: Draft, unfold: () => void): boolean {
  const name = (Object.keys(most) as Text[]).find((one) => draft[one].length > most[one]);
  if (name === undefined) return false;
  // Folded away it is not there to be pointed at.
  flushSync(unfold);
  document.getElementById(name)?.focus();
  return true;
}

/** What the record wants to know beside the test itself. */
export function RecordFields({
  draft,
  change,
  metered,
  shown,
  show,
}: {
  readonly draft: Draft;
  readonly shown: boolean;
  readonly show: (open: boolean) => void;
  readonly change: (part: Partial<Draft>) => void;
  /** The system has a meter of its own. */
  readonly metered: boolean;
}) {
  const text = (name: Text, label: string, help: string) => (
    <Field
      id={name}
      label={label}
      help={help}
      problem={
        draft[name].length > most[name]
          ? { code: 'too-long', message: `Keep it to ${most[name]} characters; there are ${draft[name].length}.` }
          : undefined
      }
    >
      <input id={name} className={input} value={draft[name]} onChange={(event) => change({ [name]: event.target.value })} />
    </Field>
  );
  return (
    <Disclosure
      shown={shown}
      show={show}
      look="font-medium"
      className="border-t border-line pt-1"
      title={`For the record: job${metered ? ', meter' : ''}, visual inspection`}
    >
      <div className="grid gap-4 sm:grid-cols-2">
        {text('jobOrigin', 'Job origin', 'Yearly round, call-out, permit, inspector’s appointment…')}
        {metered && text('meterNumber', 'Meter number', 'As on the meter’s plate.')}
        {metered && text('meterReading', 'Meter reading', 'As it stands now.')}
        <label className="flex min-h-11 items-center gap-3 self-end">
          <input
            type="checkbox"
            className="size-5 accent-(--action)"
            checked={draft.visualInspection}
            onChange={(event) => change({ visualInspection: event.target.checked })}
          />{' '}
          Visual inspection done
        </label>
      </div>
    </Disclosure>
  );
}
