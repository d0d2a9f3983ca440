import { NextResponse } from 'next/server';
import { setTestOffset, testOffset } from '@/server/clock';
import { isTestClock } from '@/server/environment';
import { jsonBody } from '@/server/http';

const absent = () => new Response(null, { status: 404 });

export const GET = () => (isTestClock() ? NextResponse.json({ offset: testOffset() }) : absent());

/** Moves the shared test clock; absent from every other build. */
export async function POST(request: Request) {
  if (!isTestClock()) return absent();
  const body = await jsonBody(request);
  if (!body.ok) return body.response;
  setTestOffset(Number(body.value.offset ?? 0));
  return NextResponse.json({ offset: testOffset() });
}
