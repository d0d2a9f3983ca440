import { paperFile } from '@/server/certificate-files';
import { route } from '@/server/door';

export const GET = route('GET /api/v1/certificates/[id]/pdf', ({ actor, params }) => paperFile(actor, params.id));
