import { sql } from 'drizzle-orm';
import { NextResponse } from 'next/server';
import { withoutFirm } from '@/db/connection';
import { missingSettings } from '@/server/environment';

export const dynamic = 'force-dynamic';

/** Ready when the settings are there and the database answers. */
export async function GET() {
  const missing = missingSettings();
  if (missing.length > 0) return NextResponse.json({ ready: false, missing }, { status: 503 });
  try {
    await withoutFirm((tx) => tx.execute(sql`select 1`));
    return NextResponse.json({ ready: true });
  } catch {
    return NextResponse.json({ ready: false, message: 'The database does not answer.' }, { status: 503 });
  }
}
