import type { Metadata } from 'next';
import { CheckFile } from '@/features/certify/check-file';

export const metadata: Metadata = { title: 'Check a certificate' };

export default function CheckPage() {
  return (
    <main className="mx-auto max-w-3xl space-y-6 p-6">
      <h1 className="text-3xl font-semibold tracking-tight">Check a certificate</h1>
      <p>Scan the code on the certificate, or check the file itself here: its PDF or its JSON record.</p>
      <CheckFile />
    </main>
  );
}
