import { NextResponse } from 'next/server';
import { knownSigners } from '@/server/keys';
import { verifyFile } from '@/server/verify';

const largest = 20 * 1024 * 1024;

/** Checks a file that anyone holds; no account. */
export async function POST(request: Request) {
  const tooLarge = () =>
    NextResponse.json(
      { problem: { code: 'file-too-large', message: 'The file is larger than 20 MB, so it is no certificate of ours.' } },
      { status: 413 },
    );
  if (Number(request.headers.get('content-length') ?? 0) > largest) return tooLarge();
  const data = Buffer.from(await request.arrayBuffer());
  if (data.length > largest) return tooLarge();
  const result = await verifyFile(data, await knownSigners());
  if (!result.ok) return NextResponse.json({ problem: result.problem }, { status: 400 });
  const { record, ...facts } = result.value;
  return NextResponse.json({
    ...facts,
    site: record.site?.name,
    system: record.tests.map(({ system }) => system?.name ?? 'not named').join(', '),
    issuedOn: record.certificate?.issuedOn,
    simulated: facts.simulated,
  });
}
