import { signOut } from '@/server/auth';
import { route } from '@/server/door';

export const POST = route('POST /api/sign-out', ({ request }) => signOut(request.headers));
