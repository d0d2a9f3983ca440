import { signIn } from '@/server/auth';
import { route } from '@/server/door';

export const POST = route('POST /api/sign-in', ({ body, request }) => signIn(body, request.headers));
