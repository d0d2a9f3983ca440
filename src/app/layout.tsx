import type { Metadata, Viewport } from 'next';
import type { ReactNode } from 'react';
import { ServiceWorker } from '@/device/service-worker-registration';
import { themeScript } from '@/ui/theme-script';
import './globals.css';

export const metadata: Metadata = {
  title: { default: 'Vast Stone', template: '%s · Vast Stone' },
  description: 'Tightness tests: measured, timed, judged and recorded.',
};
export const viewport: Viewport = { width: 'device-width', initialScale: 1, themeColor: '#f3efe4' };

export default function RootLayout({ children }: { readonly children: ReactNode }) {
  return (
    <html lang="en" suppressHydrationWarning>
      <head>
        {/* biome-ignore lint/security/noDangerouslySetInnerHtml: our own constant, needed before the first paint */}
        <script dangerouslySetInnerHTML={{ __html: themeScript }} />
      </head>
      <body className="min-h-dvh bg-ground text-ink antialiased">
        {children}
        <ServiceWorker />
      </body>
    </html>
  );
}
