'use client';

import { Command } from 'cmdk';
import { Check, ChevronDown } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import type { ChoiceProps } from './choice';
import { input } from './classes';

/** One of many: a word of it finds it. */
export function SearchedChoice({
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
}: ChoiceProps) {
  const [open, setOpen] = useState(false);
  const chosen = options.find((option) => option.value === value);
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger
        id={id}
        role="combobox"
        aria-expanded={open}
        aria-label={label}
        aria-labelledby={labelledBy}
        aria-describedby={describedBy}
        aria-invalid={invalid}
        aria-keyshortcuts={shortcut}
        disabled={disabled}
        className={`${input} flex items-center justify-between gap-2 text-left ${chosen === undefined ? 'text-quiet' : ''} ${className}`}
      >
        <span className="min-w-0 truncate">{chosen?.label ?? none}</span>
        <ChevronDown aria-hidden className="size-5 shrink-0 text-quiet" />
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={2}
          className="z-40 w-(--radix-popover-trigger-width) min-w-64 max-w-[92vw] border border-ink bg-surface shadow-lg"
        >
          <Command label={label ?? 'Search'} loop>
            <Command.Input
              placeholder="Type a word of it"
              className="min-h-12 w-full border-b border-line bg-surface px-3 outline-none placeholder:text-quiet"
            />
            <Command.List className="max-h-72 overflow-y-auto">
              <Command.Empty className="p-3 text-quiet">Nothing is called so.</Command.Empty>
              {options.map((option) => (
                <Command.Item
                  key={option.value}
                  value={`${option.label} ${option.value}`}
                  onSelect={() => {
                    change(option.value);
                    setOpen(false);
                  }}
                  className="flex min-h-12 cursor-pointer items-center gap-2 border-b border-line px-3 py-1.5 leading-tight last:border-0 data-[selected=true]:bg-sunken"
                >
                  <span className="w-4 shrink-0">{option.value === value && <Check aria-hidden className="size-4 text-action" />}</span>
                  {option.label}
                </Command.Item>
              ))}
            </Command.List>
          </Command>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
