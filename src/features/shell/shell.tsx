'use client';

import { BookCheck, BookOpen, Calculator, CalendarDays, Gauge, MapPin, Smartphone } from 'lucide-react';
import Link from 'next/link';
import { usePathname } from 'next/navigation';
import { type ReactNode, useEffect, useState } from 'react';
import { flush } from '@/features/field/outbox';
import { fieldStore, forgetPerson, type LocalPerson, rememberPerson } from '@/features/field/store';
import { takeAlong } from '@/features/field/take-along';
import { post } from '@/ui/post';
import { ThemeSwitch } from '@/ui/theme-switch';
import { RunningStrip } from './running-strip';

const places = [
  { href: '/today', label: 'Today', icon: CalendarDays },
  { href: '/sites', label: 'Sites', icon: MapPin },
  { href: '/certificates', label: 'Certificates', icon: BookCheck },
  { href: '/instruments', label: 'Instruments', icon: Gauge },
  { href: '/procedures', label: 'Procedures', icon: BookOpen },
  { href: '/bench', label: 'Bench', icon: Calculator },
  { href: '/field', label: 'On this device', short: 'Device', icon: Smartphone },
] as const;

/** The frame of the office pages: places, the strip of running holds, and who is signed in. */
export function Shell({
  person,
  firmName,
  demo,
  children,
}: {
  readonly person: LocalPerson;
  readonly firmName: string;
  readonly demo: boolean;
  readonly children: ReactNode;
}) {
  const path = usePathname();
  const [fault, setFault] = useState<string>();
  // A press before the page listens would be lost without a word.
  const [listening, setListening] = useState(false);
  useEffect(() => {
    setListening(true);
    rememberPerson(person);
    // Whoever looks in with signal can leave it: the field screens have what they need, and nothing unsent stays behind.
    takeAlong();
    flush(fieldStore(person));
  }, [person]);
  const signOut = async () => {
    // What can be sent now is sent now; with a poor signal the answer comes after a moment all the same.
    await Promise.race([flush(fieldStore(person)), new Promise((resolve) => setTimeout(resolve, 4000))]);
    const unsent = await fieldStore(person).outbox.count();
    if (unsent > 0)
      return setFault(
        `${unsent} readings or notes on this device are not sent yet. Open “On this device” with signal until it says “Saved and sent”, then sign out.`,
      );
    await post('POST /api/sign-out');
    forgetPerson();
    location.assign('/sign-in');
  };
  return (
    <div className="lg:grid lg:grid-cols-[13.5rem_minmax(0,1fr)] print:block">
      <nav
        aria-label="Places"
        className="fixed inset-x-0 bottom-0 z-10 border-t border-line bg-surface print:hidden lg:sticky lg:top-0 lg:flex lg:h-dvh lg:flex-col lg:border-r lg:border-t-0"
      >
        <p className="hidden px-5 pb-6 pt-5 text-xl font-bold tracking-tight lg:block">
          <svg viewBox="0 0 40 24" className="mb-1 h-6" aria-hidden="true">
            <path d="M0 14h18v10H0zM20 14h20v10H20zM6 2h26q6 0 6 6v4H6z" fill="var(--action)" />
          </svg>
          Vast Stone
        </p>
        <ul className="flex lg:block">
          {places.map(({ href, label, icon: Icon, ...more }) => {
            const here = path.startsWith(href);
            return (
              <li key={href} className="flex-1">
                <Link
                  href={href}
                  prefetch={href !== '/field' && undefined}
                  aria-current={here ? 'page' : undefined}
                  className={`flex min-h-14 flex-col items-center justify-center gap-0.5 px-1 text-center text-xs leading-tight lg:min-h-12 lg:flex-row lg:justify-start lg:gap-3 lg:px-5 lg:text-base ${here ? 'border-t-4 border-action font-semibold lg:border-l-4 lg:border-t-0 lg:pl-4' : 'text-quiet hover:text-ink'}`}
                >
                  <Icon className="size-5" aria-hidden />
                  {'short' in more ? (
                    <>
                      <span className="lg:hidden">{more.short}</span>
                      <span className="hidden lg:inline">{label}</span>
                    </>
                  ) : (
                    label
                  )}
                </Link>
              </li>
            );
          })}
        </ul>
        <div className="mt-auto hidden border-t border-line px-5 py-3 text-sm lg:block">
          <p className="font-medium">{person.name}</p>
          <p className="text-quiet">
            {person.role} · {firmName}
          </p>
          <div className="mt-1 flex items-center justify-between">
            <button type="button" className="min-h-11 underline" disabled={!listening} onClick={signOut}>
              Sign out
            </button>
            <ThemeSwitch />
          </div>
        </div>
      </nav>
      <div className="min-w-0 pb-24 lg:pb-8">
        <div className="flex items-center justify-between gap-3 border-b border-line px-4 py-1 text-sm text-quiet lg:hidden print:hidden">
          <span>
            {person.name} · {firmName}
          </span>
          <span className="flex items-center">
            <button type="button" className="min-h-11 underline" disabled={!listening} onClick={signOut}>
              Sign out
            </button>
            <ThemeSwitch />
          </span>
        </div>
        <RunningStrip />
        {demo && (
          <p className="border-b border-line bg-sunken px-4 py-1 text-center text-sm text-quiet lg:px-8">
            Demo firm: every name, place and reading here is invented; its history came from simulated gauges.
          </p>
        )}
        {fault !== undefined && (
          <p role="alert" className="border-l-4 border-stop bg-surface px-4 py-3">
            {fault}
          </p>
        )}
        <main className="mx-auto max-w-5xl px-4 py-5 lg:px-8">{children}</main>
      </div>
    </div>
  );
}
