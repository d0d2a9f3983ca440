'use client';

import { useState } from 'react';
import type { SearchMethod } from '@/core/judging';
import { airToListen, listeningMethods, loudestOf, readSpot, type Section, spotsOf } from '@/core/locating';
import type { OpenRun } from '@/device/use-run';
import { Button } from '@/ui/button';
import { Choice } from '@/ui/choice';
import { input } from '@/ui/classes';
import { Disclosure } from '@/ui/disclosure';
import { Notice } from '@/ui/notice';
import { nameOf } from './section-name';

const levels = ['0', '2', '5', '8', '10'];

/** Listening along the route: spots with their loudness, drawn along the line; the loudest wants a second witness. */
export function ListenPanel({
  events,
  sections,
  isPool,
  mayMove,
  write,
}: {
  readonly events: OpenRun['events'];
  readonly sections: readonly Section[];
  readonly isPool: boolean;
  readonly mayMove: boolean;
  readonly write: OpenRun['write'];
}) {
  const [section, setSection] = useState(sections.at(1)?.id ?? sections[0]?.id ?? '');
  const [at, setAt] = useState('');
  const [loudness, setLoudness] = useState('');
  const [method, setMethod] = useState<SearchMethod>('listening');
  const [fault, setFault] = useState<string>();
  const spots = spotsOf(events);
  const loudest = loudestOf(events);
  const keep = async () => {
    const place = readSpot(at);
    if (!place.ok) return setFault('Say how far along the route in numbers, such as “12.5” m or “41 ft”.');
    if (loudness === '') return setFault('Say how loud it is there, from 0 for nothing to 10.');
    setFault(undefined);
    // Cleared at the press: the next spot may be typed before this one is written. What could not be kept comes back.
    setAt('');
    setLoudness('');
    try {
      await write({ type: 'heard', section, at: at.trim(), loudness: Number(loudness), method });
    } catch (error) {
      setAt((typed) => (typed === '' ? at : typed));
      setLoudness((chosen) => (chosen === '' ? loudness : chosen));
      throw error;
    }
  };
  return (
    <Disclosure className="border border-line px-3" look="min-h-12 font-medium" open={spots.length > 0} title="Listen along the route">
      <div className="space-y-3 pb-3">
        {isPool && <Notice tone="caution">{airToListen}</Notice>}
        {spots.length > 0 && (
          <ul aria-label="Spots" className="space-y-1">
            {spots.map(({ id, at: place, loudness: loud, method: by, section: of }) => (
              <li key={id} className="grid grid-cols-[5rem_1fr] items-center gap-2 text-sm">
                <span className="figures text-right">{place}</span>
                <span className="relative block">
                  <span
                    aria-hidden
                    className={`block h-5 ${id === loudest?.spot.id ? 'bg-action' : 'bg-quiet'}`}
                    style={{ width: `${Math.max(1, loud * 6)}%` }}
                  />
                  <span className="text-quiet">
                    {nameOf(sections, of)}, {by}: {loud} of 10
                  </span>
                </span>
              </li>
            ))}
          </ul>
        )}
        {loudest !== undefined && (
          <Notice tone={loudest.witnessed ? 'plain' : 'caution'}>
            Loudest at {loudest.spot.at}, {nameOf(sections, loudest.spot.section)}.{' '}
            {loudest.witnessed
              ? 'Another method says the same.'
              : 'Sound runs along a pipe: before anything is broken out, a second witness at the same place by another method.'}
          </Notice>
        )}
        <div className="grid gap-2 sm:grid-cols-2">
          <Choice label="Line" value={section} change={setSection} options={sections.map(({ id, name }) => ({ value: id, label: name }))} />
          <Choice<SearchMethod>
            label="How it is heard"
            value={method}
            change={setMethod}
            options={listeningMethods.map((one) => ({ value: one, label: one }))}
          />
        </div>
        <label className="block text-sm">
          How far along the route, m or ft
          <input
            className={`${input} mt-0.5 text-base`}
            inputMode="decimal"
            value={at}
            onChange={({ target }) => setAt(target.value)}
            aria-invalid={fault?.startsWith('Say how far')}
          />
        </label>
        <div>
          <span className="text-sm">How loud, 0 to 10</span>
          <Choice
            label="How loud, 0 to 10"
            value={loudness}
            change={setLoudness}
            options={levels.map((one) => ({ value: one, label: one }))}
          />
        </div>
        {fault !== undefined && (
          <p role="alert" className="font-medium text-stop">
            {fault}
          </p>
        )}
        <Button tone="quiet" size="tall" disabled={!mayMove} onClick={keep}>
          Mark the spot
        </Button>
      </div>
    </Disclosure>
  );
}
