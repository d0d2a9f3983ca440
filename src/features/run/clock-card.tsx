import { Dialog } from 'radix-ui';
import { useNow } from '@/device/use-now';
import { secondText, wholeDay } from '@/ui/when';
import type { Inner } from './extra-dialog';

/** The time with the job and its phase over the whole screen, to hold beside a gauge while somebody photographs both. */
export function ClockCard({ open: { run, test }, phase, close }: Omit<Inner, 'dialog'>) {
  const time = useNow(250);
  const title = run.plan.phases.find(({ id }) => id === phase)?.title ?? '';
  return (
    <Dialog.Root open onOpenChange={(open) => !open && close()}>
      <Dialog.Portal>
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed inset-0 z-50 flex flex-col items-center justify-center gap-4 bg-white p-4 text-center text-black"
        >
          <Dialog.Title className="text-2xl font-semibold">
            {test.site} · {test.system}
          </Dialog.Title>
          <p role="timer" aria-live="off" className="figures font-semibold leading-none [font-size:min(19vw,36dvh)]">
            {secondText(time)}
          </p>
          <p className="figures text-2xl">{wholeDay(time)}</p>
          <p className="text-2xl">
            {title} · attempt <span className="figures">{run.number}</span>
          </p>
          <Dialog.Close className="min-h-14 px-6 text-lg underline">Close</Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
