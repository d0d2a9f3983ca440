import { route } from '@/server/door';
import { beginExport } from '@/server/exchange';

export const POST = route('POST /api/exchange/export', ({ actor, body }) => beginExport(actor, body));
