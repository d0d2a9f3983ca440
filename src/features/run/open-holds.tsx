'use client';

import { ToggleGroup } from 'radix-ui';
import { countdown } from '@/device/use-now';
import type { OpenPhase } from './run-model';

/** Two circuits held at the same time: each with its clock, and the one that is looked at marked. */
export function OpenHolds({
  holds,
  shown,
  time,
  look,
}: {
  readonly holds: readonly OpenPhase[];
  readonly shown: string | undefined;
  readonly time: number;
  readonly look: (phase: string) => void;
}) {
  return (
    <ToggleGroup.Root
      type="single"
      value={shown}
      onValueChange={(phase) => phase !== '' && look(phase)}
      aria-label="Holds at the same time"
      className="flex gap-px border-b border-line bg-line"
    >
      {holds.map(({ phase, dueAt, wants }) => (
        <ToggleGroup.Item
          key={phase.id}
          value={phase.id}
          className="flex min-h-12 min-w-0 flex-1 items-center justify-between gap-3 border-b-4 border-surface bg-surface px-4 text-left data-[state=on]:border-action"
        >
          <span className={`min-w-0 leading-tight ${phase.id === shown ? 'font-semibold' : ''}`}>{phase.title}</span>
          <span className={`figures shrink-0 ${dueAt !== undefined && dueAt <= time ? 'font-semibold text-caution' : ''}`}>
            {dueAt === undefined ? <span className="text-sm text-quiet">{wants}</span> : countdown(dueAt - time)}
          </span>
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}
