'use client';

import { Page } from '@/features/frame/page';
import { link } from '@/ui/classes';
import { Programs, type ShownToken } from './programs';
import { SheetImport } from './sheet-import';
import { type Exchanges, WholeFirm } from './whole-firm';

/** What comes into the firm from elsewhere, and goes out of it as a whole. */
export function ExchangeView({
  person,
  exchanges,
  tokens,
  mayExchange,
}: {
  /** Account id of whoever looks. */
  readonly person: string;
  readonly exchanges?: Exchanges;
  readonly tokens: readonly ShownToken[];
  /** Supervisors alone take all of it out or in, and let programs read. */
  readonly mayExchange: boolean;
}) {
  return (
    <Page
      width="whole"
      trail={
        <a href="/firm" className={link}>
          Firm
        </a>
      }
      title="Data in and out"
      line="Tables from elsewhere come in; all of the firm’s data goes out as open files, and into another installation."
    >
      <div className="grid gap-x-10 gap-y-10 lg:grid-cols-[minmax(0,1fr)_22rem]">
        <SheetImport of={person} />
        <div className="space-y-10">
          {mayExchange && exchanges !== undefined ? (
            <>
              <WholeFirm first={exchanges} />
              <Programs tokens={tokens} />
            </>
          ) : (
            <p className="text-quiet">Supervisors take all of the firm’s data out or in, and let other programs read it.</p>
          )}
        </div>
      </div>
    </Page>
  );
}
