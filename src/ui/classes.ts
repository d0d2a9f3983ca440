/** Shared looks of controls, as class lists. */
export const button =
  'inline-flex min-h-11 items-center justify-center gap-2 rounded-[3px_10px_3px_3px] bg-action px-4 py-2 font-semibold text-on-action hover:brightness-110 disabled:opacity-50 disabled:cursor-not-allowed';
export const quietButton =
  'inline-flex min-h-11 items-center justify-center gap-2 rounded-[3px_10px_3px_3px] border border-line bg-surface px-4 py-2 font-medium text-ink hover:bg-sunken disabled:opacity-50 disabled:cursor-not-allowed';
export const stopButton =
  'inline-flex min-h-11 items-center justify-center gap-2 rounded-[3px_10px_3px_3px] border-2 border-stop px-4 py-2 font-semibold text-stop hover:bg-sunken disabled:opacity-50';
export const input =
  'min-h-11 w-full rounded-[3px] border border-line bg-surface px-3 py-2 text-ink placeholder:text-quiet aria-[invalid=true]:border-stop aria-[invalid=true]:border-2';
export const heading = 'text-2xl font-semibold tracking-tight';
export const subheading = 'text-lg font-semibold tracking-tight';
export const link = 'font-medium underline decoration-action decoration-2 underline-offset-4 hover:text-action';
