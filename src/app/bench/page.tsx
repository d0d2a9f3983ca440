import type { Metadata } from 'next';
import { BenchScreen } from '@/features/bench/bench-screen';

export const metadata: Metadata = { title: 'Bench' };
export const dynamic = 'force-static';

/** Quick calculations: a static page without server data, open to anyone, with or without signal. */
export default function BenchPage() {
  return <BenchScreen />;
}
