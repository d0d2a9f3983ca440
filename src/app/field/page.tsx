import type { Metadata } from 'next';
import { FieldApp } from '@/features/field/field-app';

export const metadata: Metadata = { title: 'Field' };
export const dynamic = 'force-static';

/** The one static route of the field screens: no server data in the document, so that it opens with no signal. */
export default function FieldPage() {
  return <FieldApp />;
}
