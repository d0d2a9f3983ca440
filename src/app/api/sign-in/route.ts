import { signIn } from '@/server/auth';
import { jsonBody, respond, sameOrigin } from '@/server/http';

export async function POST(request: Request) {
  if (!sameOrigin(request))
    return Response.json({ problem: { code: 'other-origin', message: 'Sign in from this site’s own page.' } }, { status: 403 });
  const body = await jsonBody(request);
  if (!body.ok) return body.response;
  const { email, password } = body.value;
  const result = await signIn(String(email ?? ''), String(password ?? ''), request.headers);
  return result.ok ? result.value : respond(result);
}
