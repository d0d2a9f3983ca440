import { Progress as Bar } from 'radix-ui';

/** How far something is: in words, and as a bar that is read out too. */
export function Progress({ label, done, total }: { readonly label: string; readonly done: number; readonly total: number }) {
  const share = total <= 0 ? 0 : Math.min(1, done / total);
  return (
    <div>
      <p className="flex justify-between gap-4 text-sm">
        <span>{label}</span>
        <span className="figures">{total <= 0 ? '' : `${Math.floor(share * 100)} %`}</span>
      </p>
      <Bar.Root value={Math.floor(share * 100)} aria-label={label} className="mt-1 h-3 w-full overflow-hidden rounded-[2px] bg-sunken">
        <Bar.Indicator className="h-full bg-action transition-[width]" style={{ width: `${share * 100}%` }} />
      </Bar.Root>
    </div>
  );
}
