'use client';

import { useMemo, useState } from 'react';
import { instrumentOf } from '@/core/course';
import { timeText } from '@/core/limits';
import {
  fallenHold,
  firstSections,
  hiddenLeak,
  isolationSeconds,
  likelihoods,
  listenedTo,
  nextSearch,
  type Section,
  searchLog,
  simulatedIsolation,
  subtree,
} from '@/core/locating';
import { seedOf } from '@/core/simulation';
import { useDevice } from '@/device/provider';
import { useLive } from '@/device/use-live';
import type { OpenRun } from '@/device/use-run';
import { Page } from '@/features/frame/page';
import { SignalLine } from '@/features/frame/signal-line';
import { To } from '@/features/frame/source';
import { Schematic } from '@/features/sites/schematic';
import { Button } from '@/ui/button';
import { input, subheading } from '@/ui/classes';
import { KeyHint } from '@/ui/key-hint';
import { Notice } from '@/ui/notice';
import { useButtonKeys } from '@/ui/use-shortcuts';
import { IsolationHold } from './isolation-hold';
import { ListenPanel } from './listen-panel';
import { LookForm } from './look-form';
import { SearchList } from './search-list';
import { nameOf } from './section-name';

/** Finding the leak after a fall: first the rig, then the gauge, then the system, section by section. */
export function LocateScreen({
  open,
  goVerdict,
  goPlan,
  goSections,
}: {
  readonly open: OpenRun;
  readonly goVerdict: () => void;
  readonly goPlan: (from: { readonly avoid?: string }) => void;
  readonly goSections: () => void;
}) {
  useButtonKeys();
  const { store } = useDevice();
  const { run, test, events, judgement, attempts, hasPen, write } = open;
  const { plan } = run;
  const system = useLive(store, ({ systems }) => systems.get(test.systemId), [test.systemId]);
  const sections: readonly Section[] = system?.sections.length ? system.sections : firstSections(system?.kind ?? 'component', []);
  const log = useMemo(() => searchLog(plan, judgement, events), [plan, judgement, events]);
  const seconds = isolationSeconds(plan, judgement);
  const likelihood = useMemo(() => likelihoods(sections, log.looked, log.isolated), [sections, log]);
  const next = useMemo(() => nextSearch(sections, likelihood, { holdMinutes: seconds / 60 }), [sections, likelihood, seconds]);
  const [chosen, setChosen] = useState<string>();
  const target = log.open?.section ?? chosen ?? next?.section;
  const section = sections.find(({ id }) => id === target);
  const hold = fallenHold(plan, judgement);
  const otherGauge = attempts.some(({ plan: other }) => other.gauge.id !== plan.gauge.id);
  const likeliest = [...likelihood].sort((a, b) => b[1] - a[1])[0];
  const found = log.looked.find(({ leak, section: id }) => leak && sections.some((one) => one.id === id));
  const leaky = judgement.simulated ? hiddenLeak(sections, seedOf(test.id)) : undefined;
  const shutOff = section === undefined ? new Set<string>() : subtree(sections, section.id);
  return (
    <Page
      width="whole"
      trail={
        <To place={{ at: 'verdict', run: run.id }} className="underline">
          {test.site} · {test.system}
        </To>
      }
      title="Find the leak"
      signal={<SignalLine />}
    >
      <div className="grid gap-8 lg:grid-cols-[minmax(0,1.2fr)_minmax(0,1fr)]">
        <section aria-label="Schematic" className="min-w-0">
          <Schematic
            sections={sections}
            name={test.system}
            likelihood={likelihood}
            {...(section === undefined || next?.kind === 'look' ? {} : { shut: shutOff })}
            choose={setChosen}
          />
          <p className="mt-1 text-sm text-quiet">
            The darker a section, the likelier the leak is there. Choose a section to shut it off instead of the one that is recommended.
          </p>
          <Button tone="bare" size="tall" className="text-sm" aria-keyshortcuts="c" onClick={goSections}>
            Change the sections: joints, years, what is hidden <KeyHint of="C" />
          </Button>
          <SearchList log={log} sections={sections} mayWithdraw={hasPen} write={write} />
        </section>
        <section aria-label="Steps" className="space-y-5">
          <Step number={1} title="The rig" done={log.rigDry} words="Its own joints stayed dry.">
            <p>Soap or look at the hose, the tee and the gauge’s joint before the system is charged with the fall.</p>
            <div className="mt-2 flex flex-wrap gap-2">
              <Button
                size="tall"
                shortcut="1"
                disabled={!hasPen}
                onClick={() => write({ type: 'searched', section: 'rig', method: 'bubbles', leak: false, text: '' })}
              >
                The rig is dry
              </Button>
              <Button
                tone="stop"
                size="tall"
                shortcut="b"
                disabled={!hasPen}
                onClick={() => write({ type: 'searched', section: 'rig', method: 'bubbles', leak: true, text: '' })}
              >
                The rig leaks
              </Button>
            </div>
            {log.looked.some(({ section: id, leak }) => id === 'rig' && leak) && (
              <div className="mt-2">
                <Notice tone="caution">Mend the rig and test again: the fall is not the system’s until the rig is dry.</Notice>
              </div>
            )}
          </Step>
          {plan.gauge.id !== 'none' && (
            <Step
              number={2}
              title="The gauge"
              done={log.gaugeChecked || otherGauge}
              words={otherGauge ? 'Another gauge was used for another attempt.' : 'Checked against another gauge.'}
            >
              <p>Before anything is opened: repeat with another gauge, or hang a second one beside it.</p>
              <div className="mt-2 flex flex-wrap gap-2">
                <Button tone="quiet" size="tall" shortcut="w" onClick={() => goPlan({ avoid: plan.gauge.id })}>
                  Swap the gauge and repeat
                </Button>
                <Button
                  tone="quiet"
                  size="tall"
                  shortcut="2"
                  disabled={!hasPen}
                  onClick={() =>
                    write({ type: 'searched', section: 'gauge', method: 'looking', leak: false, text: 'Agrees with a second gauge' })
                  }
                >
                  A second gauge agrees
                </Button>
              </div>
            </Step>
          )}
          <Step number={plan.gauge.id === 'none' ? 2 : 3} title="The system" done={found !== undefined} words={foundWords(sections, found)}>
            {next !== undefined && found === undefined && (
              <p className="text-lg" data-testid="recommended">
                {next.kind === 'isolate' ? (
                  <>
                    Shut off <b>{nameOf(sections, next.section)}</b>
                    {subtree(sections, next.section).size > 1 && ' and what hangs on it'}, and hold the rest.
                  </>
                ) : (
                  <>
                    Look at <b>{nameOf(sections, next.section)}</b>, joint by joint.
                  </>
                )}{' '}
                <span className="text-quiet">
                  About <span className="figures">{next.expectedMinutes}</span> min left until it is found.
                </span>
              </p>
            )}
            {next?.kind === 'look' &&
              sections.find(({ id }) => id === next.section)?.hidden === true &&
              !log.gaugeChecked &&
              !otherGauge && <Notice tone="caution">Swap the gauge before a wall is opened.</Notice>}
            {section !== undefined &&
              found === undefined &&
              (next?.kind === 'isolate' || chosen !== undefined || log.open !== undefined) && (
                <IsolationHold
                  key={section.id}
                  section={section}
                  instrument={instrumentOf(plan, hold?.instrument)}
                  seconds={seconds}
                  held={hold !== undefined}
                  mayMove={hasPen}
                  {...(log.open === undefined || log.open.step !== 'start' ? {} : { begun: log.open })}
                  write={write}
                  {...(leaky === undefined
                    ? {}
                    : { simulate: (start: string) => simulatedIsolation(plan, judgement, start, seconds, shutOff, leaky) })}
                  leaks={leaky === undefined ? undefined : !shutOff.has(leaky)}
                />
              )}
            {system !== undefined && listenedTo.includes(system.kind) && (
              <ListenPanel events={events} sections={sections} isPool={system.kind === 'pool'} mayMove={hasPen} write={write} />
            )}
            <LookForm
              sections={sections}
              suggested={next?.kind === 'look' ? next.section : (likeliest?.[0] ?? '')}
              kind={system?.kind}
              mayMove={hasPen}
              write={write}
              {...(leaky === undefined ? {} : { leaky })}
            />
          </Step>
          <Repair open={open} goPlan={goPlan} />
          <Button tone="bare" size="tall" aria-keyshortcuts="v" onClick={goVerdict}>
            Back to the verdict <KeyHint of="V" />
          </Button>
          {hold !== undefined && (
            <p className="text-sm text-quiet">
              An isolation is held {timeText(seconds)}: long enough for the fall that was seen to show again in what is still connected.
            </p>
          )}
        </section>
      </div>
    </Page>
  );
}

const foundWords = (sections: readonly Section[], found: { readonly section: string } | undefined): string =>
  found === undefined ? '' : `Found at ${nameOf(sections, found.section)}.`;

function Step({
  number,
  title,
  done,
  words,
  children,
}: {
  readonly number: number;
  readonly title: string;
  readonly done: boolean;
  readonly words: string;
  readonly children: React.ReactNode;
}) {
  return (
    <section className={`border-l-4 pl-4 ${done ? 'border-line' : 'border-action'}`} aria-label={title}>
      <h2 className={subheading}>
        <span className="figures mr-2 text-quiet">{number}</span>
        {title} {done && <span className="ml-2 text-base font-normal text-action">{words}</span>}
      </h2>
      {(!done || number > 2) && <div className="mt-1 space-y-3">{children}</div>}
    </section>
  );
}

/** Joints are remade with the pressure released; then the whole test again, from its first phase. */
function Repair({ open, goPlan }: { readonly open: OpenRun; readonly goPlan: (from: object) => void }) {
  const [text, setText] = useState('');
  const repaired = async () => {
    await open.write({ type: 'note', text: `Repaired: ${text.trim()}` });
    goPlan({});
  };
  return (
    <section aria-label="Repair" className="border-t border-line pt-4">
      <h2 className={subheading}>
        Repaired? <KeyHint of="R" />
      </h2>
      <p>Release the pressure before a joint is remade. Then the whole test again, from its first phase.</p>
      <div className="mt-2 flex flex-wrap gap-2">
        <input
          aria-keyshortcuts="r"
          aria-label="What was repaired"
          placeholder="What was repaired"
          className={`${input} min-w-56 flex-1`}
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        <Button size="tall" disabled={text.trim() === '' || open.test.sealed !== undefined} onClick={repaired}>
          Test again
        </Button>
      </div>
    </section>
  );
}
