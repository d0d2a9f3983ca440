import { Slot } from 'radix-ui';
import type { ButtonHTMLAttributes, Ref } from 'react';
import { KeyHint } from './key-hint';

const tones = {
  /** The one thing to do. */
  action: 'bg-action font-semibold text-on-action hover:brightness-110',
  quiet: 'border border-line bg-surface font-medium text-ink hover:bg-sunken',
  stop: 'border-2 border-stop font-semibold text-stop hover:bg-sunken',
  /** Among words. */
  bare: 'font-medium underline underline-offset-4 hover:text-action',
} as const;

const sizes = { plain: 'min-h-11', tall: 'min-h-12', great: 'min-h-14 text-lg' } as const;

const shape =
  'inline-flex items-center justify-center gap-2 disabled:cursor-not-allowed disabled:opacity-50 aria-disabled:cursor-not-allowed aria-disabled:opacity-50';

export type Tone = keyof typeof tones;

/** The looks of a button, for what is a link. */
export const buttonLook = (tone: Tone = 'action', size: keyof typeof sizes = 'plain'): string =>
  `${shape} ${tone === 'bare' ? '' : 'rounded-[3px_10px_3px_3px] px-4 py-2'} ${tones[tone]} ${sizes[size]}`;

export interface ButtonProps extends ButtonHTMLAttributes<HTMLButtonElement> {
  readonly tone?: Tone;
  readonly size?: keyof typeof sizes;
  /** The key that presses it on a screen that listens for keys. */
  readonly shortcut?: string;
  /** Its only child takes the looks: a link that leads somewhere. */
  readonly asChild?: boolean;
  readonly ref?: Ref<HTMLButtonElement>;
}

/** Every button of ours: what it says, what weight it has, and the key that presses it. */
export function Button({ tone, size, shortcut, asChild = false, className = '', children, ...rest }: ButtonProps) {
  const looks = `${buttonLook(tone, size)} ${className}`;
  const keys = shortcut === undefined ? {} : { 'aria-keyshortcuts': shortcut.toLowerCase() };
  if (asChild)
    return (
      <Slot.Root className={looks} {...keys} {...rest}>
        {children}
      </Slot.Root>
    );
  return (
    <button type="button" className={looks} {...keys} {...rest}>
      {children}
      {shortcut !== undefined && <KeyHint of={shortcut.toUpperCase()} plain={tone === undefined || tone === 'action'} />}
    </button>
  );
}
