'use client';

import dynamic from 'next/dynamic';
import { pipeDegrees } from '@/core/course';
import { unitLabel } from '@/core/quantities';
import type { OpenRun } from '@/device/use-run';
import { Button } from '@/ui/button';

/** What is one tap away in every phase. The dialogs load after the screen stands. */
const ExtraDialog = dynamic(() => import('./extra-dialog').then((module) => module.ExtraDialog), { ssr: false });

export interface ExtrasProps {
  readonly open: OpenRun;
  readonly phase: string;
  readonly round: number;
  readonly holding: boolean;
  readonly dialog?: string;
  readonly setDialog: (dialog: string | undefined) => void;
  readonly emergencyNumber: string;
  readonly cautions: Readonly<Record<string, string>>;
}

export function Extras(props: ExtrasProps) {
  const { open, setDialog, dialog } = props;
  const one = (name: string, label: string, key: string) => (
    <Button tone="quiet" size="tall" className="px-1.5 text-sm" onClick={() => setDialog(name)}>
      {label} <kbd className="text-xs text-quiet @max-5xl:hidden">{key}</kbd>
    </Button>
  );
  return (
    <div className="grid grid-cols-3 gap-1.5">
      {one('disturbance', 'Disturbed', 'D')}
      {one('photo', 'Photo', 'P')}
      {one('note', 'Note', 'N')}
      {one('temperature', `Pipe ${unitLabel(pipeDegrees(open.run.plan))}`, 'T')}
      {one('leak', 'Leak seen', 'L')}
      {one('end', 'End early', 'E')}
      {dialog !== undefined && <ExtraDialog {...props} dialog={dialog} />}
    </div>
  );
}
