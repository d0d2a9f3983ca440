'use client';

import type { Problem } from '@/core/quantities';
import { blank, type Change, changing, making, type Said, type Thing, type ThingKind } from '@/core/register';
import { newId } from '@/device/clock';
import { useSource } from '@/features/frame/source';
import { Button } from '@/ui/button';
import { SheetDialog } from '@/ui/sheet-dialog';
import { useToast } from '@/ui/toasts';
import { type WordsField, WordsForm } from '@/ui/words-form';
import { tidied } from './fields';

/** Says what was done to a thing, and takes it back. */
export function useChanges() {
  const { change } = useSource();
  const say = useToast();
  return async (changes: readonly Change[], words: string) => {
    const problem = await change(changes);
    if (problem !== undefined) return problem;
    const back = [...changes].reverse().map(undone);
    say(words, () => void change(back));
    return undefined;
  };
}

/** The same the other way round; what was made is put away, since nothing is ever taken away. */
const undone = ({ thing, of, fields }: Change): Change =>
  Object.values(fields).every(({ was }) => was === undefined)
    ? { thing, of, fields: { putAway: { was: false, is: true } } }
    : { thing, of, fields: Object.fromEntries(Object.entries(fields).map(([field, { was = null, is }]) => [field, { was: is, is: was }])) };

/** A new thing, asked for in a dialog. */
export function AddThing<K extends ThingKind>({
  kind,
  title,
  fields,
  said = {},
  close,
  done,
  shape = (values) => tidied(kind, values),
  more,
  fault,
  then,
}: {
  readonly kind: K;
  readonly title: string;
  readonly fields: readonly WordsField[];
  /** What is known of it already. */
  readonly said?: Partial<Said<K>>;
  readonly close: () => void;
  readonly done?: (id: string) => void;
  readonly shape?: (values: Readonly<Record<string, unknown>>) => Partial<Said<K>>;
  /** What is made together with it. */
  readonly more?: (values: Readonly<Record<string, unknown>>, id: string) => readonly Change[];
  /** What is wrong with what comes after it; then nothing is made. */
  readonly fault?: (values: Readonly<Record<string, unknown>>) => Problem | undefined;
  /** What is kept of it after it was made. */
  readonly then?: (values: Readonly<Record<string, unknown>>, id: string) => Promise<void>;
}) {
  const keep = useChanges();
  return (
    <SheetDialog title={title} close={close}>
      <WordsForm
        fields={fields}
        submit="Save"
        send={async (values) => {
          const wrong = fault?.(values);
          if (wrong !== undefined) return wrong;
          const id = newId();
          const made = { ...blank[kind], ...said, ...shape(values) };
          const problem = await keep([making(kind, id, made), ...(more?.(values, id) ?? [])], `Saved: ${nameOf(made)}`);
          if (problem !== undefined) return problem;
          await then?.(values, id);
          close();
          done?.(id);
          return undefined;
        }}
      />
    </SheetDialog>
  );
}

const nameOf = (said: object): string => {
  const { name, kind, on } = said as { readonly name?: string; readonly kind?: string; readonly on?: string };
  return name ?? on ?? kind ?? '';
};

/** A thing changed, or put away, in a dialog. */
export function ChangeThing<K extends ThingKind>({
  kind,
  thing,
  title,
  fields,
  close,
}: {
  readonly kind: K;
  readonly thing: Thing<K>;
  readonly title: string;
  readonly fields: readonly WordsField[];
  readonly close: () => void;
}) {
  const keep = useChanges();
  const put = async (said: Partial<Said<K>>, words: string) => {
    const change = changing(kind, thing, said);
    const problem = change === undefined ? undefined : await keep([change], words);
    if (problem === undefined) close();
    return problem;
  };
  return (
    <SheetDialog title={title} close={close}>
      <WordsForm
        fields={fields}
        submit="Save"
        send={(values) => put(tidied(kind, values), `Saved: ${nameOf({ ...thing, ...tidied(kind, values) })}`)}
      >
        <Button
          tone="bare"
          size="tall"
          className="px-2"
          onClick={() =>
            put({ putAway: !thing.putAway } as Partial<Said<K>>, thing.putAway ? `Back: ${nameOf(thing)}` : `Put away: ${nameOf(thing)}`)
          }
        >
          {thing.putAway ? 'Take it out again' : 'Put it away'}
        </Button>
      </WordsForm>
    </SheetDialog>
  );
}
