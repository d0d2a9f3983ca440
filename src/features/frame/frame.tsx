'use client';

import { BookCheck, BookOpen, Building2, Calculator, CalendarDays, Gauge, Mail, MapPin } from 'lucide-react';
import dynamic from 'next/dynamic';
import type { Role } from '@/core/permissions';
import { Button } from '@/ui/button';
import type { MenuItem } from '@/ui/menu';
import { ThemeSwitch } from '@/ui/theme-switch';
import type { FrameSlots, Who } from './whole-frame';

// A run has no places beside it, and waits for no menu.
const MorePlaces = dynamic(() => import('./more-places').then((module) => module.MorePlaces));

interface Tab {
  readonly id: string;
  readonly href: string;
  readonly label: string;
  readonly icon: typeof Gauge;
}

const device = {
  today: { id: 'today', href: '/field', label: 'Today', icon: CalendarDays },
  sites: { id: 'sites', href: '/field?at=sites', label: 'Sites', icon: MapPin },
  instruments: { id: 'instruments', href: '/field?at=instruments', label: 'Instruments', icon: Gauge },
} as const;
const office = {
  today: { id: 'today', href: '/today', label: 'Today', icon: CalendarDays },
  sites: { id: 'sites', href: '/sites', label: 'Sites', icon: MapPin },
  instruments: { id: 'instruments', href: '/instruments', label: 'Instruments', icon: Gauge },
} as const;
const certificates = { id: 'certificates', href: '/certificates', label: 'Certificates', icon: BookCheck } as const;
const procedures = { id: 'procedures', href: '/procedures', label: 'Procedures', icon: BookOpen } as const;
const firm = { id: 'firm', href: '/firm', label: 'Firm', icon: Building2 } as const;
const mail = { id: 'mail', href: '/mail', label: 'Mail', icon: Mail } as const;
const bench = { id: 'bench', href: '/bench', label: 'Bench', icon: Calculator } as const;

/** On a device its own places come first, and lead nowhere that needs a signal; a technician has no others. */
const tabsOf = (role: Role, on: 'device' | 'office'): readonly Tab[] =>
  on === 'device' || role === 'technician'
    ? [
        device.today,
        device.sites,
        device.instruments,
        bench,
        certificates,
        procedures,
        ...(role === 'technician' ? [] : [{ id: 'office', href: '/today', label: 'Office', icon: Building2 }]),
      ]
    : [office.today, office.sites, certificates, office.instruments, procedures, bench, mail, firm];

const shownOnPhone = 4;

export function Mark({ className }: { readonly className?: string }) {
  return (
    <svg viewBox="0 0 40 24" className={className} aria-hidden="true">
      <path d="M0 14h18v10H0zM20 14h20v10H20zM6 2h26q6 0 6 6v4H6z" fill="var(--action)" />
    </svg>
  );
}

export type { Who };

/**
 * The one frame of all pages, with its slots: the places, the strip of running holds beside them (where nothing moves when one begins),
 * what must be said across the page, and the page. A run takes the whole screen: see `whole-frame.tsx`.
 */
export function Frame({ who, on, here, go, signOut, strip, banner, children }: FrameSlots) {
  const tabs = tabsOf(who.role, on);
  const more: readonly MenuItem[] = [
    ...tabs.slice(shownOnPhone).map(({ label, href }) => ({ label, href })),
    { label: `Sign out ${who.name}`, disabled: signOut === undefined, do: signOut },
  ];
  const link = ({ id, href, label, icon: Icon }: Tab, place: number) => {
    const isHere = here === id;
    return (
      <li key={id} className={place < shownOnPhone ? 'flex-1' : 'hidden lg:block'}>
        <a
          href={href}
          aria-current={isHere ? 'page' : undefined}
          onClick={(event) => {
            if (event.metaKey || event.ctrlKey || event.shiftKey || event.button !== 0) return;
            if (go?.(href) === true) event.preventDefault();
          }}
          className={`flex min-h-14 flex-col items-center justify-center gap-0.5 px-1 text-center text-xs leading-tight lg:min-h-12 lg:flex-row lg:justify-start lg:gap-3 lg:px-5 lg:text-base ${isHere ? 'border-t-4 border-action font-semibold lg:border-l-4 lg:border-t-0 lg:pl-4' : 'text-quiet hover:text-ink'}`}
        >
          <Icon className="size-5" aria-hidden />
          {label}
        </a>
      </li>
    );
  };
  return (
    <div className="lg:grid lg:grid-cols-[13.5rem_minmax(0,1fr)] print:block">
      <nav
        aria-label="Places"
        className="fixed inset-x-0 bottom-0 z-10 border-t border-line bg-surface print:hidden lg:sticky lg:top-0 lg:flex lg:h-dvh lg:flex-col lg:border-r lg:border-t-0"
      >
        <p className="hidden px-5 pb-6 pt-5 text-xl font-bold tracking-tight lg:block">
          <Mark className="mb-1 h-6" />
          Vast Stone
        </p>
        <div className="lg:order-3 lg:mt-auto">{strip}</div>
        <ul className="flex lg:order-1 lg:block">
          {tabs.map(link)}
          <li className="flex-1 lg:hidden">
            <MorePlaces items={more} />
          </li>
        </ul>
        <div className="hidden border-t border-line px-5 py-3 text-sm lg:order-4 lg:block">
          <p className="font-medium">{who.name}</p>
          <p className="text-quiet">
            {who.role} · {who.firm}
          </p>
          <div className="mt-1 flex items-center justify-between">
            <Button tone="bare" disabled={signOut === undefined} onClick={signOut}>
              Sign out
            </Button>
            <ThemeSwitch />
          </div>
        </div>
      </nav>
      <div className="min-w-0 pb-(--foot) lg:pb-8">
        <div className="flex items-center justify-between gap-3 border-b border-line px-4 text-sm text-quiet lg:hidden print:hidden">
          <span className="truncate">
            {who.name} · {who.firm}
          </span>
          <ThemeSwitch />
        </div>
        {banner}
        {children}
      </div>
    </div>
  );
}
