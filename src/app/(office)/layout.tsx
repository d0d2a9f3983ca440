import type { ReactNode } from 'react';
import { Shell } from '@/features/shell/shell';
import { isDemo } from '@/server/environment';
import { readFirm } from '@/server/firms';
import { pageActor } from '@/server/page';

export const dynamic = 'force-dynamic';

export default async function OfficeLayout({ children }: { readonly children: ReactNode }) {
  const actor = await pageActor();
  const firm = await readFirm(actor.firmId);
  return (
    <Shell
      person={{ userId: actor.userId, firmId: actor.firmId, name: actor.name, role: actor.role }}
      firmName={firm?.name ?? ''}
      demo={isDemo()}
    >
      {children}
    </Shell>
  );
}
