import { signOut } from '@/server/auth';
import { asActor } from '@/server/http';

export const POST = (request: Request) => asActor(request, () => signOut(request.headers));
