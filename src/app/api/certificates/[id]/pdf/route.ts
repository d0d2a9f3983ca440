import { paperFile } from '@/server/certificate-files';
import { route } from '@/server/door';

export const GET = route('GET /api/certificates/[id]/pdf', ({ actor, params, query }) => paperFile(actor, params.id, query.has('inline')));
