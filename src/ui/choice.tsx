'use client';

import { Check, ChevronDown } from 'lucide-react';
import dynamic from 'next/dynamic';
import { Select, ToggleGroup } from 'radix-ui';
import { input } from './classes';

export interface Option<V extends string = string> {
  readonly value: V;
  readonly label: string;
}

export interface ChoiceProps<V extends string = string> {
  readonly options: readonly Option<V>[];
  /** Nothing is chosen where it is none of the options. */
  readonly value: string;
  readonly change: (value: V) => void;
  readonly id?: string;
  /** Says what is chosen; where a label stands beside it, `labelledBy` names that. */
  readonly label?: string;
  readonly labelledBy?: string;
  readonly describedBy?: string;
  readonly invalid?: boolean;
  readonly disabled?: boolean;
  readonly shortcut?: string;
  /** Said where nothing is chosen yet. */
  readonly none?: string;
  readonly className?: string;
}

/** One tap each, as long as they are few and short enough to be seen at once. */
const fewest = 5;
const mostSigns = 90;
/** From so many on one types a word of it rather than reading them all. */
const searched = 13;

const Searched = dynamic(() => import('./searched-choice').then((module) => module.SearchedChoice), {
  ssr: false,
  loading: () => <div className={`${input} opacity-60`} />,
});

/** One of several: few stand side by side, more open as a list, many are searched. */
export function Choice<V extends string>(props: ChoiceProps<V>) {
  const { options } = props;
  const signs = options.reduce((sum, { label }) => sum + label.length, 0);
  if (options.length <= fewest && signs <= mostSigns) return <Few {...props} />;
  return options.length >= searched ? <Searched {...(props as unknown as ChoiceProps)} /> : <Dropdown {...props} />;
}

/** An empty value is an answer like any other here; to the parts underneath it would mean that nothing is chosen. */
const blank = '(nothing)';
const inList = (value: string): string => (value === '' ? blank : value);
const ofList = <V extends string>(value: string): V => (value === blank ? '' : value) as V;

function Few<V extends string>({
  options,
  value,
  change,
  id,
  label,
  labelledBy,
  describedBy,
  invalid,
  disabled,
  shortcut,
  className = '',
}: ChoiceProps<V>) {
  return (
    <ToggleGroup.Root
      type="single"
      id={id}
      // Pressed again it stays: something is chosen from now on. Nothing named is an answer too, and no press taken back.
      value={options.some((option) => option.value === value) ? inList(value) : ''}
      onValueChange={(next) => next !== '' && change(ofList<V>(next))}
      aria-label={label}
      aria-labelledby={labelledBy}
      aria-describedby={describedBy}
      aria-keyshortcuts={shortcut}
      data-invalid={invalid === true ? '' : undefined}
      disabled={disabled}
      className={`flex flex-wrap gap-1.5 data-invalid:border-l-4 data-invalid:border-stop data-invalid:pl-2 ${className}`}
    >
      {options.map((option) => (
        <ToggleGroup.Item
          key={option.value}
          value={inList(option.value)}
          className="group inline-flex min-h-12 grow basis-auto items-center justify-center gap-1.5 rounded-[3px] border border-line bg-surface px-3 py-1.5 text-left leading-tight hover:bg-sunken disabled:opacity-50 data-[state=on]:border-2 data-[state=on]:border-action data-[state=on]:bg-sunken data-[state=on]:font-semibold sm:grow-0"
        >
          <Check aria-hidden className="hidden size-4 shrink-0 text-action group-data-[state=on]:block" />
          {option.label}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}

export function Dropdown<V extends string>({
  options,
  value,
  change,
  id,
  label,
  labelledBy,
  describedBy,
  invalid,
  disabled,
  shortcut,
  none = 'Choose',
  className = '',
}: ChoiceProps<V>) {
  const known = options.some((option) => option.value === value);
  return (
    <Select.Root value={known ? inList(value) : ''} onValueChange={(next) => change(ofList<V>(next))} disabled={disabled}>
      <Select.Trigger
        id={id}
        aria-label={label}
        aria-labelledby={labelledBy}
        aria-describedby={describedBy}
        aria-invalid={invalid}
        aria-keyshortcuts={shortcut}
        // Shut, it keeps the focus after a choice: a letter there is a key of the screen, and changes no answer unseen.
        onKeyDown={(event) => event.key.length === 1 && event.key !== ' ' && event.preventDefault()}
        className={`${input} flex items-center justify-between gap-2 text-left data-placeholder:text-quiet ${className}`}
      >
        <Select.Value placeholder={none} />
        <Select.Icon>
          <ChevronDown aria-hidden className="size-5 text-quiet" />
        </Select.Icon>
      </Select.Trigger>
      <Select.Portal>
        <Select.Content
          position="popper"
          sideOffset={2}
          className="z-40 max-h-(--radix-select-content-available-height) min-w-(--radix-select-trigger-width) max-w-[92vw] overflow-hidden border border-ink bg-surface shadow-lg"
        >
          <Select.Viewport>
            {options.map((option) => (
              <Select.Item
                key={option.value}
                value={inList(option.value)}
                className="flex min-h-12 cursor-pointer items-center gap-2 border-b border-line px-3 py-1.5 leading-tight outline-none last:border-0 data-highlighted:bg-sunken data-[state=checked]:font-semibold"
              >
                <span className="w-4 shrink-0">
                  <Select.ItemIndicator>
                    <Check aria-hidden className="size-4 text-action" />
                  </Select.ItemIndicator>
                </span>
                <Select.ItemText>{option.label}</Select.ItemText>
              </Select.Item>
            ))}
          </Select.Viewport>
        </Select.Content>
      </Select.Portal>
    </Select.Root>
  );
}
