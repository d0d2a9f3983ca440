'use client';

import { Button } from './button';
import { useToast } from './toasts';

/** A text to hand on: a phone gives it to whatever sends it; elsewhere it is copied. */
export function ShareText({ text, className = 'mt-2' }: { readonly text: string; readonly className?: string }) {
  const say = useToast();
  const give = async () => {
    if (navigator.share !== undefined) return void navigator.share({ text }).catch(() => undefined);
    await navigator.clipboard.writeText(text);
    say('Copied');
  };
  return (
    <Button tone="quiet" className={className} onClick={give}>
      Copy or share
    </Button>
  );
}
