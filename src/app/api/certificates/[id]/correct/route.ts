import { correctCertificate } from '@/server/certificates';
import { route } from '@/server/door';

export const POST = route('POST /api/certificates/[id]/correct', ({ actor, params, body }) => correctCertificate(actor, params.id, body));
