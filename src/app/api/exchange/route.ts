import { answer } from '@/server/answers';
import { route } from '@/server/door';
import { listExchanges } from '@/server/exchange';

export const GET = route('GET /api/exchange', async ({ actor }) => answer(await listExchanges(actor)));
