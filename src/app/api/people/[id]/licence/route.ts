import { route } from '@/server/door';
import { saveLicence } from '@/server/firms';

export const POST = route('POST /api/people/[id]/licence', ({ actor, params, body }) => saveLicence(actor, params.id, body));
