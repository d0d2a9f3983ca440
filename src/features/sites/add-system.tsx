'use client';

import { useRouter } from 'next/navigation';
import { systemKinds, systemKindWords } from '@/core/procedures';
import { subheading } from '@/ui/classes';
import { SimpleForm } from '@/ui/simple-form';

export function AddSystem({ siteId }: { readonly siteId: string }) {
  const router = useRouter();
  return (
    <details className="max-w-xl border-t border-line pt-4">
      <summary className={subheading}>Add a system</summary>
      <div className="mt-3">
        <SimpleForm
          route="POST /api/sites/[id]/systems"
          parts={{ id: siteId }}
          submit="Add the system"
          done={() => router.refresh()}
          fields={[
            { name: 'name', label: 'Name', help: 'As people on site call it: “Gas, flat 3”, “Returns, main pool”.' },
            {
              name: 'kind',
              label: 'Kind',
              kind: 'choice',
              initial: 'gas',
              options: systemKinds.map((value) => ({ value, label: systemKindWords[value] })),
            },
            { name: 'pipes', label: 'Pipe schedule', kind: 'area', help: 'A line each: 22cu 6.5 · 1sch40 40ft · 20dn 3. May stay empty.' },
            { name: 'statedVolume', label: 'Or the volume of the pipes', help: 'Where the lengths are not known, such as 12.5 L.' },
            { name: 'components', label: 'Appliances and components', kind: 'area', help: 'A line each, with serial number if known.' },
          ]}
        />
      </div>
    </details>
  );
}
