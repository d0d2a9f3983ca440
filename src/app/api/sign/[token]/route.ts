import { route } from '@/server/door';
import { signByLink } from '@/server/sign-links';

export const POST = route('POST /api/sign/[token]', ({ params, body }) => signByLink(params.token, body));
