'use client';

import { type Ref, useEffect, useImperativeHandle, useRef } from 'react';
import SignaturePad from 'signature_pad';

export interface SignatureHandle {
  /** Strokes as x, y in hundredths of a hundredth of the field's width (0 to 10 000), a list a stroke. */
  readonly strokes: () => number[][];
  readonly clear: () => void;
}

/** A field to sign in with finger, pen or mouse. */
export function SignatureField({
  label,
  ref,
  onChange,
}: {
  readonly label: string;
  readonly ref: Ref<SignatureHandle>;
  readonly onChange?: (signed: boolean) => void;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const pad = useRef<SignaturePad>(undefined);
  useImperativeHandle(ref, () => ({
    strokes: () => {
      const width = canvas.current?.clientWidth ?? 1;
      return (pad.current?.toData() ?? []).map(({ points }) =>
        points.flatMap(({ x, y }) => [Math.round((x / width) * 10_000), Math.round((y / width) * 10_000)]),
      );
    },
    clear: () => pad.current?.clear(),
  }));
  useEffect(() => {
    const element = canvas.current;
    if (element === null) return;
    const scale = window.devicePixelRatio || 1;
    element.width = element.clientWidth * scale;
    element.height = element.clientHeight * scale;
    element.getContext('2d')?.scale(scale, scale);
    const made = new SignaturePad(element, { penColor: getComputedStyle(element).color, minWidth: 0.8, maxWidth: 2.2 });
    pad.current = made;
    const ended = () => onChange?.(!made.isEmpty());
    made.addEventListener('endStroke', ended);
    return () => made.off();
  }, [onChange]);
  return <canvas ref={canvas} aria-label={label} className="block h-32 w-full touch-none border-b-2 border-ink bg-sunken text-ink" />;
}
