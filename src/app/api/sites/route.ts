import { route } from '@/server/door';
import { addSite } from '@/server/sites';

export const POST = route('POST /api/sites', ({ actor, body }) => addSite(actor, body));
