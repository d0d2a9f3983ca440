'use client';

import { usePathname, useRouter } from 'next/navigation';
import { type ReactNode, useEffect, useMemo, useState } from 'react';
import { flush } from '@/device/outbox';
import { takeAlong } from '@/device/register';
import { deviceStore, forgetPerson, type LocalPerson, rememberPerson } from '@/device/store';
import { countdown, useNow } from '@/device/use-now';
import { isHolding, useRunning } from '@/device/use-running';
import { DemoBanner, FaultBanner } from '@/features/frame/banners';
import { Frame } from '@/features/frame/frame';
import { addressOfPlace, type Place } from '@/features/frame/places';
import { type Source, SourceProvider } from '@/features/frame/source';
import { post } from '@/ui/post';
import { Toasts } from '@/ui/toasts';

/** Where the office finds what has a page of its own on the server; everything else is the device's. */
const officeHref = (place: Place): string => {
  switch (place.at) {
    case 'today':
      return '/today';
    case 'sites':
      return '/sites';
    case 'site':
      return `/sites/${place.site}`;
    case 'visit':
      return `/visits/${place.visit}`;
    case 'instruments':
      return '/instruments';
    default:
      return addressOfPlace(place);
  }
};

/** The frame of the server's pages, and what feeds their views: commands to the server, then the page once more. */
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
  const router = useRouter();
  const [fault, setFault] = useState<string>();
  // A press before the page listens would be lost without a word.
  const [listening, setListening] = useState(false);
  useEffect(() => {
    setListening(true);
    rememberPerson(person);
    // Whoever looks in with signal can leave it: the device has what it needs, and nothing unsent stays behind.
    takeAlong();
    flush(deviceStore(person));
  }, [person]);
  const source = useMemo<Source>(() => {
    const asked = async (answer: Awaited<ReturnType<typeof post>>) => {
      if (!answer.ok) return answer.problem;
      router.refresh();
      return undefined;
    };
    return {
      kind: 'office',
      person,
      change: async (changes) => asked(await post('POST /api/things', {}, { changes })),
      calibrate: async (id, said) => asked(await post('POST /api/instruments/[id]/calibrations', { id }, said)),
      settle: async (id, choice) => asked(await post('POST /api/clashes/[id]', { id }, { choice })),
      hrefOf: officeHref,
      go: (place) => {
        const href = officeHref(place);
        if (href.startsWith('/field')) return false;
        router.push(href);
        return true;
      },
    };
  }, [person, router]);
  const signOut = async () => {
    // What can be sent now is sent now; with a poor signal the answer comes after a moment all the same.
    await Promise.race([flush(deviceStore(person)), new Promise((resolve) => setTimeout(resolve, 4000))]);
    const unsent = await deviceStore(person).outbox.count();
    if (unsent > 0)
      return setFault(
        `${unsent} ${unsent === 1 ? 'thing is' : 'things are'} on this device and not sent yet. Keep a test open with signal until it says “Saved and sent”, then sign out.`,
      );
    await post('POST /api/sign-out');
    forgetPerson();
    location.assign('/sign-in');
  };
  return (
    <SourceProvider source={source}>
      <Toasts>
        <Frame
          on="office"
          who={{ name: person.name, role: person.role, firm: firmName }}
          here={path.split('/')[1]}
          go={(href) => {
            if (href.startsWith('/field')) return false;
            router.push(href);
            return true;
          }}
          signOut={listening ? signOut : undefined}
          strip={<RunningStrip />}
          banner={
            <>
              {demo && <DemoBanner />}
              {fault !== undefined && <FaultBanner of={fault} />}
            </>
          }
        >
          {children}
        </Frame>
      </Toasts>
    </SourceProvider>
  );
}

/** Running holds with their countdowns, on every page of the office, beside its places. */
function RunningStrip() {
  const time = useNow(500);
  const running = useRunning().filter((one) => isHolding(one, time));
  if (running.length === 0) return null;
  return (
    <ul aria-label="Running holds" data-strip className="flex gap-px overflow-x-auto border-b border-line bg-line lg:flex-col lg:border-t">
      {running.map(({ run, system, phase, dueAt }) => (
        <li key={run} className="min-w-44 flex-1 bg-surface">
          <a href={`/field?run=${run}`} className="flex min-h-11 items-center justify-between gap-3 px-4 py-1.5 hover:bg-sunken">
            <span className="min-w-0 truncate text-sm">
              <b>{system}</b> <span className="text-quiet">{phase}</span>
            </span>
            {dueAt !== undefined && (
              <span className={`figures font-semibold ${dueAt <= time ? 'text-caution' : ''}`}>{countdown(dueAt - time)}</span>
            )}
          </a>
        </li>
      ))}
    </ul>
  );
}
