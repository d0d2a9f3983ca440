import { route } from '@/server/door';
import { beginImport } from '@/server/exchange';

export const POST = route('POST /api/exchange/import', ({ actor, body }) => beginImport(actor, body));
