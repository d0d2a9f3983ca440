'use client';

import { useEffect, useRef, useState } from 'react';

/** The real PDF, page by page, drawn in the browser: the preview is what will be downloaded. */
export function PdfPreview({ address }: { readonly address: string }) {
  const holder = useRef<HTMLDivElement>(null);
  const [state, setState] = useState<'drawing' | 'drawn' | 'failed'>('drawing');
  useEffect(() => {
    let live = true;
    const draw = async () => {
      const pdfjs = await import('pdfjs-dist');
      pdfjs.GlobalWorkerOptions.workerSrc = new URL('pdfjs-dist/build/pdf.worker.min.mjs', import.meta.url).toString();
      const file = await pdfjs.getDocument({ url: address }).promise;
      const canvases: HTMLCanvasElement[] = [];
      for (let number = 1; number <= file.numPages; number += 1) {
        const page = await file.getPage(number);
        const viewport = page.getViewport({ scale: 1.6 });
        const canvas = document.createElement('canvas');
        canvas.width = viewport.width;
        canvas.height = viewport.height;
        canvas.className = 'w-full border border-line bg-white';
        canvas.setAttribute('role', 'img');
        canvas.setAttribute('aria-label', `Page ${number} of ${file.numPages}`);
        await page.render({ canvas, viewport }).promise;
        canvases.push(canvas);
      }
      if (!live) return;
      holder.current?.replaceChildren(...canvases);
      setState('drawn');
    };
    draw().catch((error: unknown) => {
      console.error(error);
      if (live) setState('failed');
    });
    return () => {
      live = false;
    };
  }, [address]);
  return (
    <section aria-label="Preview of the PDF">
      {state === 'drawing' && <p className="text-quiet">Drawing the pages…</p>}
      {state === 'failed' && (
        <p role="alert">
          The preview could not be drawn.{' '}
          <a className="underline" href={address}>
            Open the PDF itself
          </a>
          .
        </p>
      )}
      <div ref={holder} className="space-y-4" data-state={state} />
    </section>
  );
}
