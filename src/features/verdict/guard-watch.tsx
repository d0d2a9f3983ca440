'use client';

import { useMemo } from 'react';
import { guardLooks, guardText } from '@/core/judging';
import type { OpenRun } from '@/device/use-run';
import { GuardForm } from '@/features/run/guard-form';
import { subheading } from '@/ui/classes';
import { Disclosure } from '@/ui/disclosure';
import { Notice } from '@/ui/notice';

/** The gauge that stayed on: how it was left, and every later look with what it says. */
export function GuardWatch({ open: { run, events, write, mayWrite } }: { readonly open: OpenRun }) {
  const { gauge } = run.plan;
  const looks = useMemo(() => guardLooks(run.plan, events), [run.plan, events]);
  if (looks.length === 0) return null;
  const last = looks.at(-1)?.state;
  return (
    <section className="mt-6 border-t border-line pt-4" aria-label="Guard gauge">
      <h2 className={subheading}>Guard gauge</h2>
      {last?.alarm === true && (
        <div className="mt-2">
          <Notice tone="stop" role="alert">
            {last.sentence}
          </Notice>
        </div>
      )}
      <ul className="mt-2 divide-y divide-line border-y border-line">
        {looks.map(({ event, state }, index) => (
          <li key={event.id} className="flex flex-wrap justify-between gap-x-4 py-1.5">
            <span>
              <b className="figures">{guardText(event.value, event.unit, event.celsius)}</b>{' '}
              <span className="text-quiet">
                {new Date(event.observedAt).toLocaleString([], { dateStyle: 'medium', timeStyle: 'short' })}
              </span>
            </span>
            <span className={state?.alarm === true ? 'font-semibold text-stop' : 'text-quiet'}>
              {index === 0
                ? 'as it was left'
                : state === undefined
                  ? 'not compared: another unit'
                  : state.alarm
                    ? 'has fallen'
                    : 'in order'}
            </span>
            {state !== undefined && (
              <Disclosure className="w-full" look="text-sm text-quiet" title="Show the sum">
                {state.working.map((line) => (
                  <p key={line} className="figures text-sm">
                    {line}
                  </p>
                ))}
              </Disclosure>
            )}
          </li>
        ))}
      </ul>
      {/* Also once the test is sealed: the gauge is watched until the finishing work is done, and the certificate stays as it is. */}
      {mayWrite && (
        <GuardForm
          gauge={gauge}
          label="Write the look down"
          disabled={false}
          save={(value, celsius) => write({ type: 'guard', value, unit: gauge.unit, source: 'keypad', celsius })}
        />
      )}
    </section>
  );
}
