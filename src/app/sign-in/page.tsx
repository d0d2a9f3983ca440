import type { Metadata } from 'next';
import { demoPassword, people } from '@/../demo/firm';
import { SignInScreen } from '@/features/shell/sign-in-screen';
import { isDemo } from '@/server/environment';

export const metadata: Metadata = { title: 'Sign in' };
export const dynamic = 'force-dynamic';

export default function SignInPage() {
  return <SignInScreen demo={isDemo() ? people.map(({ name, email, role }) => ({ name, email, role, password: demoPassword })) : []} />;
}
