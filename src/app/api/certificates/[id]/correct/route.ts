import { route } from '@/server/door';
import { correctCertificate } from '@/server/sealing';

export const POST = route('POST /api/certificates/[id]/correct', ({ actor, params, body }) => correctCertificate(actor, params.id, body));
