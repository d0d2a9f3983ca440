import type { Metadata } from 'next';
import { may } from '@/core/permissions';
import { ExchangeView } from '@/features/exchange/exchange-view';
import { listTokens } from '@/server/api-tokens';
import { listExchanges } from '@/server/exchange';
import { pageActor } from '@/server/page';

export const metadata: Metadata = { title: 'Data in and out' };

/** Tables from elsewhere come in, and all of the firm's data goes out. */
export default async function DataPage() {
  const actor = await pageActor();
  const mayExchange = may(actor.role, 'exchange');
  return mayExchange ? (
    <ExchangeView person={actor.userId} mayExchange exchanges={await listExchanges(actor)} tokens={await listTokens(actor)} />
  ) : (
    <ExchangeView person={actor.userId} mayExchange={false} tokens={[]} />
  );
}
