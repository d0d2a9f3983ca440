import { searchSites } from '@/server/along';
import { route } from '@/server/door';

export const GET = route('GET /api/field/search', ({ actor, query }) =>
  searchSites(actor, query.get('words') ?? '', query.get('system') ?? ''),
);
