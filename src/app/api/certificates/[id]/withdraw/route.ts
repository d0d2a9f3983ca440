import { route } from '@/server/door';
import { withdrawCertificate } from '@/server/sealing';

export const POST = route('POST /api/certificates/[id]/withdraw', ({ actor, params, body }) => withdrawCertificate(actor, params.id, body));
