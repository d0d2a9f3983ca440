import { redirect } from 'next/navigation';
import { pageActor } from '@/server/page';

export const dynamic = 'force-dynamic';

/** A technician's day is on the device, anyone else's on the server. */
export default async function Home() {
  redirect((await pageActor()).role === 'technician' ? '/field' : '/today');
}
