import { NextResponse } from 'next/server';
import { listRunning } from '@/server/field';
import { asActor } from '@/server/http';

export const GET = (request: Request) => asActor(request, async (actor) => NextResponse.json(await listRunning(actor)));
