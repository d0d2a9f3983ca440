'use client';

import { Dialog } from 'radix-ui';
import { type ReactNode, useState } from 'react';
import { type Body, type DisturbanceKind, disturbanceKinds, neverWaived } from '@/core/judging/events';
import { now } from '@/features/field/clock';
import { useField } from '@/features/field/field';
import { hashBytes } from '@/features/field/hash';
import { button, input, quietButton, stopButton } from '@/ui/classes';
import { Notice } from '@/ui/notice';
import type { ExtrasProps } from './extras';

const titles: Record<string, string> = {
  disturbance: 'What disturbed it?',
  photo: 'Photograph',
  note: 'Note',
  smell: 'Smell of gas',
  leak: 'Leak seen',
  end: 'End early',
  keys: 'Keys',
};

/** The dialogs of the run screen. Everything written here is an event of the log. */
export function ExtraDialog(props: ExtrasProps & { readonly dialog: string }) {
  const { dialog, setDialog } = props;
  const close = () => setDialog(undefined);
  return (
    <Dialog.Root open onOpenChange={(open) => !open && close()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-black/50" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed inset-x-0 bottom-0 z-10 max-h-[92dvh] overflow-y-auto border-t-4 border-action bg-ground p-4 sm:inset-x-auto sm:bottom-auto sm:left-1/2 sm:top-24 sm:w-[30rem] sm:-translate-x-1/2 sm:border sm:border-t-4"
        >
          <div className="mb-3 flex items-center justify-between">
            <Dialog.Title className="text-xl font-semibold">{titles[dialog]}</Dialog.Title>
            <Dialog.Close className="min-h-11 min-w-11 font-medium underline">Close</Dialog.Close>
          </div>
          <Contents {...props} close={close} />
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

type Inner = ExtrasProps & { readonly dialog: string; readonly close: () => void };

function Contents(props: Inner): ReactNode {
  switch (props.dialog) {
    case 'disturbance':
      return <Disturbance {...props} />;
    case 'photo':
      return <Photo {...props} />;
    case 'note':
      return <Words {...props} label="What is worth keeping?" save="Keep the note" body={(text) => ({ type: 'note', text })} />;
    case 'smell':
      return (
        <>
          <Notice tone="stop">{props.cautions.smell}</Notice>
          <p className="my-3">
            Emergency number: <b className="figures text-xl">{props.emergencyNumber}</b>
          </p>
          <Words
            {...props}
            optional
            label="Where was it noticed?"
            save="Gas was smelt: stop the test"
            stop
            body={(text) => ({ type: 'smell', text })}
          />
        </>
      );
    case 'leak':
      return <LeakSeen {...props} />;
    case 'end':
      return <End {...props} />;
    default:
      return <Keys />;
  }
}

function Words({
  open,
  close,
  label,
  save,
  body,
  stop = false,
  optional = false,
}: Inner & {
  readonly label: string;
  readonly save: string;
  readonly body: (text: string) => Body;
  readonly stop?: boolean;
  readonly optional?: boolean;
}) {
  const [text, setText] = useState('');
  return (
    <form
      className="space-y-3"
      onSubmit={async (event) => {
        event.preventDefault();
        await open.write(body(text.trim()));
        close();
      }}
    >
      <label className="block font-medium">
        {label}
        <textarea
          rows={3}
          maxLength={2000}
          className={`${input} mt-1 font-normal`}
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
      </label>
      <button type="submit" className={`${stop ? stopButton : button} min-h-14 w-full`} disabled={!optional && text.trim() === ''}>
        {save}
      </button>
    </form>
  );
}

function Disturbance({ open, close, phase, round, holding }: Inner) {
  const [what, setWhat] = useState<DisturbanceKind>('gas used');
  const [text, setText] = useState('');
  const [aside, setAside] = useState('');
  const waivable = !neverWaived.includes(what);
  return (
    <form
      className="space-y-3"
      onSubmit={async (event) => {
        event.preventDefault();
        const written = await open.write({ type: 'disturbance', phase, round, what, text: text.trim() });
        if (waivable && aside.trim() !== '') await open.write({ type: 'waived', disturbance: written.id, reason: aside.trim() });
        close();
      }}
    >
      {!holding && <Notice>No hold runs now; this is kept in the log and voids nothing.</Notice>}
      <fieldset className="grid grid-cols-2 gap-1.5">
        <legend className="sr-only">Kind of disturbance</legend>
        {disturbanceKinds.map((kind) => (
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
        <input className={`${input} mt-1 font-normal`} value={text} maxLength={400} onChange={(event) => setText(event.target.value)} />
      </label>
      {waivable ? (
        <label className="block font-medium">
          Reason to set it aside (leave empty to void the hold)
          <input className={`${input} mt-1 font-normal`} value={aside} maxLength={400} onChange={(event) => setAside(event.target.value)} />
        </label>
      ) : (
        <p className="text-sm text-quiet">This can never be set aside: the hold will be void and must be restarted.</p>
      )}
      <button type="submit" className={`${button} min-h-14 w-full`}>
        Write it down
      </button>
    </form>
  );
}

function LeakSeen({ open, close, phase, round }: Inner) {
  const [text, setText] = useState('');
  const write = async (where: 'system' | 'rig') => {
    await open.write({ type: 'leak-seen', phase, round, where, text: text.trim() });
    close();
  };
  return (
    <div className="space-y-3">
      <label className="block font-medium">
        Where?
        <input className={`${input} mt-1 font-normal`} value={text} maxLength={400} onChange={(event) => setText(event.target.value)} />
      </label>
      <button type="button" className={`${stopButton} min-h-14 w-full`} disabled={text.trim() === ''} onClick={() => write('system')}>
        Bubbles on the system: fail
      </button>
      <button type="button" className={`${quietButton} min-h-14 w-full`} onClick={() => write('rig')}>
        Bubbles on the rig: mend it and repeat
      </button>
    </div>
  );
}

function End(props: Inner) {
  const { open, close, phase, round, holding } = props;
  const [text, setText] = useState('');
  return (
    <div className="space-y-3">
      <label className="block font-medium">
        Why?
        <input className={`${input} mt-1 font-normal`} value={text} maxLength={400} onChange={(event) => setText(event.target.value)} />
      </label>
      {holding && (
        <button
          type="button"
          className={`${quietButton} min-h-14 w-full`}
          disabled={text.trim() === ''}
          onClick={async () => {
            await open.write({ type: 'hold-stopped', phase, round, reason: text.trim() });
            close();
          }}
        >
          Stop this hold: judge it by the last reading
        </button>
      )}
      <button
        type="button"
        className={`${stopButton} min-h-14 w-full`}
        disabled={text.trim() === '' || !open.hasPen}
        onClick={async () => {
          await open.write({ type: 'stopped', reason: text.trim() });
          close();
        }}
      >
        End the whole test, then the closing steps
      </button>
    </div>
  );
}

function Photo({ open, close }: Inner) {
  const { store, send } = useField();
  const [fault, setFault] = useState<string>();
  const take = async (file: File | undefined) => {
    if (file === undefined) return;
    if (!file.type.startsWith('image/')) return setFault('This file is not a picture. Use a JPEG, PNG or WebP.');
    if (file.size > 15 * 1024 * 1024) return setFault('The picture is larger than 15 MB. Take it at a lower resolution.');
    const takenAt = file.lastModified > 0 && file.lastModified <= now() ? file.lastModified : now();
    const hash = await hashBytes(await file.arrayBuffer());
    await open.write({ type: 'photo', hash, takenAt, text: '' });
    await store.outbox.add({ item: { kind: 'photo', run: open.run.id, takenAt, picture: file } } as never);
    send();
    close();
  };
  return (
    <div className="space-y-3">
      <p>The custom is the gauge beside a clock, at the start and at the end of the hold.</p>
      <input
        type="file"
        accept="image/*"
        capture="environment"
        aria-label="Choose or take a picture"
        className={input}
        onChange={(event) => take(event.target.files?.[0])}
      />
      {fault !== undefined && (
        <p role="alert" className="font-medium text-stop">
          {fault}
        </p>
      )}
    </div>
  );
}

const keys: readonly (readonly [string, string])[] = [
  ['S', 'Stamp a reading, then type it'],
  ['Enter', 'Save the typed reading'],
  ['R', 'Read the simulated gauge'],
  ['U', 'Raise the simulated plant into the band'],
  ['Z', 'Zero the simulated gauge'],
  ['C', 'Cautions understood'],
  ['A', 'Answer the next item of the list'],
  ['D', 'Disturbance'],
  ['P', 'Photograph'],
  ['N', 'Note'],
  ['G', 'Smell of gas'],
  ['E', 'End early'],
  ['V', 'Verdict'],
  ['Tab', 'Move between buttons'],
  ['?', 'This list'],
];

const Keys = () => (
  <>
    <dl className="grid grid-cols-[4rem_1fr] gap-y-1.5">
      {keys.map(([key, meaning]) => (
        <div key={key} className="contents">
          <dt>
            <kbd className="figures border border-line bg-surface px-2 py-0.5">{key}</kbd>
          </dt>
          <dd>{meaning}</dd>
        </div>
      ))}
    </dl>
    <p className="mt-3 text-sm text-quiet">
      An alarm sounds only while this screen is open. The screen is kept awake where the browser allows it.
    </p>
  </>
);
