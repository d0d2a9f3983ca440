import { recordFile } from '@/server/certificate-files';
import { route } from '@/server/door';

export const GET = route('GET /api/v1/certificates/[id]/record', ({ actor, params }) => recordFile(actor, params.id));
