import { recordFile } from '@/server/certificate-files';
import { route } from '@/server/door';

export const GET = route('GET /api/certificates/[id]/json', ({ actor, params }) => recordFile(actor, params.id));
