import Link from 'next/link';
import { Fragment, type ReactNode } from 'react';
import { type FigureView, figureText, type PhaseView, type ProcedureView, type Together } from '@/core/library';
import type { HouseRule } from '@/core/planning';
import { type Unit, unitLabel } from '@/core/quantities';
import { inSentence } from '@/core/record';
import { Page } from '@/features/frame/page';
import { link, quietButton, subheading } from '@/ui/classes';
import { Disclosure } from '@/ui/disclosure';
import { Notice } from '@/ui/notice';
import { OwnProcedures, type OwnVersion } from './own-procedures';
import { RuleForm, type RuleVersion } from './rule-form';
import { TogetherChart } from './together-chart';
import { WorkedExample } from './worked-example';

/** One procedure as a plain page, made from its data. */
export function ProcedureScreen({
  view,
  others,
  own,
  rules,
  standing,
  on,
  together,
  maySetRules,
}: {
  readonly view: ProcedureView;
  /** House rules on this procedure that hold, and the date that the example is worked for. */
  readonly standing: readonly HouseRule[];
  readonly on: string;
  /** Other procedures for the same kinds of system. */
  readonly others: readonly { readonly id: string; readonly title: string; readonly school: string }[];
  readonly own: readonly OwnVersion[];
  /** Every version of the house rules on this procedure. */
  readonly rules: readonly RuleVersion[];
  readonly together?: Together;
  readonly maySetRules: boolean;
}) {
  const { worked, guide } = view;
  return (
    <Page
      title={view.title}
      line={`${view.school} · for ${view.kinds.join(', ')} · with ${view.medium}`}
      trail={
        <Link href="/procedures" className="underline">
          Procedures
        </Link>
      }
    >
      <article className="space-y-8">
        <header>
          <p className="mt-2 max-w-prose text-lg leading-snug">{view.purpose}</p>
          <p className="mt-3 flex flex-wrap items-center gap-x-5 gap-y-2">
            <Link href={`/procedures/${view.id}/kit`} className={quietButton}>
              Kit list to print
            </Link>
            {others.length > 0 && (
              <span className="leading-loose">
                Put beside{' '}
                {others.map(({ id, title }, index) => (
                  <Fragment key={id}>
                    {index > 0 && ' · '}
                    <Link href={`/procedures/compare?first=${view.id}&second=${id}`} className={`${link} whitespace-nowrap`}>
                      {inSentence(title)}
                    </Link>
                  </Fragment>
                ))}
              </span>
            )}
          </p>
        </header>
        {view.trouble !== undefined && (
          <Notice tone="stop">
            With the firm’s rules the worked example cannot be planned. {view.trouble} Correct the house rules below.
          </Notice>
        )}
        {worked !== undefined && <WorkedExample procedureId={view.id} title={view.title} rules={standing} on={on} initial={worked} />}
        <div className="grid gap-x-10 gap-y-6 md:grid-cols-2">
          <Listed title="What it tells" lines={guide.tells} />
          <Listed title="What it cannot tell" lines={[...guide.cannotTell, ...(worked?.notTested ?? [])].filter(onlyOnce)} />
          <Listed title="Where it ends" lines={guide.scope} />
          <section>
            <h2 className={subheading}>What to do on each outcome</h2>
            <dl className="mt-2 space-y-2">
              {guide.outcomes.map(({ on, act }) => (
                <div key={on}>
                  <dt className="font-medium">{on}</dt>
                  <dd>{act}</dd>
                </div>
              ))}
            </dl>
          </section>
        </div>
        {guide.schools !== undefined && (
          <section aria-label="Schools" className="max-w-prose">
            <h2 className={subheading}>Where schools differ</h2>
            <p className="mt-1">{guide.schools}</p>
          </section>
        )}
        {worked !== undefined && <Steps phases={worked.phases} />}
        {together !== undefined && <TogetherChart title={view.title} together={together} />}
        <Figures figures={view.figures} procedure={view.id} rules={rules} maySetRules={maySetRules} />
        <OwnProcedures base={view.id} baseTitle={view.title} figures={view.figures} versions={own} mayPublish={maySetRules} />
        {worked !== undefined && (
          <section>
            <h2 className={subheading}>Boundaries</h2>
            <ul className="mt-2 space-y-1">
              {worked.boundaries.map(({ label, how, beyond }) => (
                <li key={label}>
                  <b className="font-medium">{label}</b>, {how}. <span className="text-quiet">Beyond: {inSentence(beyond)}.</span>
                </li>
              ))}
              {worked.boundaries.length === 0 && <li className="text-quiet">None: all of it is under test.</li>}
            </ul>
          </section>
        )}
        <div className="grid gap-x-10 gap-y-6 md:grid-cols-2">
          <Listed title="Cautions" lines={view.cautions} />
          <Listed title="Evidence wanted" lines={view.evidence} />
          <section>
            <h2 className={subheading}>What the plan asks</h2>
            <dl className="mt-2 space-y-1.5">
              {view.questions.map(({ label, help, usual }) => (
                <div key={label}>
                  <dt className="font-medium">
                    {label}
                    {usual !== '' && <span className="font-normal text-quiet">, usually {usual}</span>}
                  </dt>
                  <dd className="text-quiet">{help}</dd>
                </div>
              ))}
            </dl>
          </section>
          <section>
            <h2 className={subheading}>Time it usually takes</h2>
            <table className="mt-2 w-full">
              <thead className="text-left text-sm text-quiet">
                <tr>
                  <th className="font-medium">Task</th>
                  <th className="text-right font-medium">Hands</th>
                  <th className="text-right font-medium">Waiting</th>
                </tr>
              </thead>
              <tbody>
                {view.tasks.map(({ title, activeMinutes, passiveMinutes }) => (
                  <tr key={title} className="border-t border-line">
                    <td className="py-1">{title}</td>
                    <td className="figures text-right">{activeMinutes} min</td>
                    <td className="figures text-right">{passiveMinutes} min</td>
                  </tr>
                ))}
                <tr className="border-t-2 border-line font-medium">
                  <td className="py-1">In all</td>
                  <td className="figures text-right">{view.activeMinutes} min</td>
                  <td className="figures text-right">{view.passiveMinutes} min</td>
                </tr>
              </tbody>
            </table>
          </section>
        </div>
        <p className="text-sm text-quiet">
          Version {view.version}. Local code, the maker’s instructions and licensed practice come first; nothing here replaces them.
        </p>
      </article>
    </Page>
  );
}

const onlyOnce = (text: string, index: number, all: readonly string[]): boolean =>
  all.findIndex((other) => other.toLowerCase() === text.toLowerCase()) === index;

function Listed({ title, lines }: { readonly title: string; readonly lines: readonly string[] }) {
  return (
    <section>
      <h2 className={subheading}>{title}</h2>
      <ul className="mt-2 list-disc space-y-1 pl-5 marker:text-quiet">
        {lines.map((text) => (
          <li key={text}>{text}</li>
        ))}
      </ul>
    </section>
  );
}

/** Every step in order; those of a sound system carry the numbers of the picture. */
function Steps({ phases }: { readonly phases: readonly PhaseView[] }) {
  let number = 0;
  return (
    <section aria-label="Steps">
      <h2 className={subheading}>Step by step</h2>
      <ol className="mt-2 divide-y divide-line border-y border-line">
        {phases.map((phase) => {
          if (phase.main) number += 1;
          return (
            <li key={phase.id} className="grid grid-cols-[2.25rem_1fr] gap-x-2 py-2.5">
              <span className="figures pt-0.5 text-lg font-semibold">
                {phase.main ? number : <span className="font-sans text-base font-normal text-quiet">if</span>}
              </span>
              <Disclosure
                look="list-outside"
                title={
                  <>
                    <b className="font-medium">{phase.title}</b>
                    {phase.time !== undefined && (
                      <span className="figures text-quiet">
                        {' '}
                        {phase.time}, {phase.band}
                      </span>
                    )}
                    {!phase.main && phase.when !== '' && <span className="text-quiet"> · {phase.when}</span>}
                    {phase.rule !== undefined && <span className="block text-sm">{phase.rule}</span>}
                  </>
                }
              >
                <div className="mt-1 space-y-1.5 border-l-2 border-line pl-3 text-[0.95rem]">
                  {phase.cautions.map((text) => (
                    <p key={text} className="font-medium text-caution">
                      Caution. {text}
                    </p>
                  ))}
                  <p>{phase.say}</p>
                  {phase.lines.length > 0 && (
                    <ul className="list-disc pl-5 marker:text-quiet">
                      {phase.lines.map((text) => (
                        <li key={text}>{text}</li>
                      ))}
                    </ul>
                  )}
                  {phase.main && phase.when !== '' && <p className="text-sm text-quiet">Begins when: {phase.when}.</p>}
                </div>
              </Disclosure>
            </li>
          );
        })}
      </ol>
    </section>
  );
}

function Figures({
  figures,
  procedure,
  rules,
  maySetRules,
}: {
  readonly figures: readonly FigureView[];
  readonly procedure: string;
  readonly rules: readonly RuleVersion[];
  readonly maySetRules: boolean;
}) {
  if (figures.length === 0) return null;
  return (
    <section aria-label="Figures">
      <h2 className={subheading}>Figures, and the house’s own</h2>
      <p className="text-sm text-quiet">A house rule may only be stricter. A plan says which figures it took, and keeps them.</p>
      <div className="overflow-x-auto">
        <table className="mt-2 w-full border-collapse text-left max-sm:block">
          <thead className="text-sm text-quiet max-sm:hidden">
            <tr className="border-b border-line">
              <th scope="col" className="py-1 pr-4 font-medium">
                Figure
              </th>
              <th scope="col" className="pr-4 text-right font-medium">
                Procedure
              </th>
              <th scope="col" className="w-[22rem] font-medium">
                House rule
              </th>
            </tr>
          </thead>
          <tbody className="max-sm:block">
            {figures.map(({ id, label, value, unit, stricter, house }) => (
              <tr key={id} className="border-b border-line/60 align-top max-sm:grid max-sm:grid-cols-[1fr_auto] max-sm:py-1">
                <th scope="row" className="py-1.5 pr-4 font-normal">
                  {label}
                </th>
                <td
                  className={`figures whitespace-nowrap py-1.5 text-right sm:pr-4 ${house === undefined ? '' : 'text-quiet line-through'}`}
                >
                  {figureText({ value, unit })}
                </td>
                <td className="max-sm:col-span-2 sm:py-1.5">
                  {house !== undefined && (
                    <span>
                      <b className="figures">{figureText({ value: house.value, unit })}</b>{' '}
                      <span className="text-quiet">({house.reference})</span>
                    </span>
                  )}
                  <RuleForm
                    procedure={procedure}
                    figure={{ id, label, value, unit: unitText(unit), stricter }}
                    {...(house === undefined ? {} : { standing: house.value })}
                    history={rules.filter((rule) => rule.figure === id)}
                    mayEdit={maySetRules}
                  />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {!maySetRules && <p className="mt-1 text-sm text-quiet">Supervisors set house rules.</p>}
    </section>
  );
}

/** Figures' units are the trade's own words where they are no unit of measure. */
const unitText = (unit: string): string => unitLabel(unit as Unit) ?? unit;

/** The kit alone, to print. */
export function KitScreen({ view, print }: { readonly view: ProcedureView; readonly print: ReactNode }) {
  return (
    <Page
      width="narrow"
      title={`Kit: ${inSentence(view.title)}`}
      line={`${view.school}, with ${view.medium}. Packed for ____________________ on ____________`}
      trail={
        <span className="print:hidden">
          <Link href={`/procedures/${view.id}`} className={link}>
            {view.title}
          </Link>
        </span>
      }
      actions={<span className="print:hidden">{print}</span>}
    >
      <div className="space-y-4">
        <Boxes title="Instruments" lines={['Gauge that suits the plan, zeroed and in date', ...view.instruments]} />
        <Boxes title="Tools, adapters, consumables, protective wear" lines={view.kit} />
        <Boxes title="To bring back" lines={view.evidence} />
        <section>
          <h2 className={subheading}>Before leaving the van</h2>
          <ul className="mt-1 list-disc pl-5">
            {view.cautions.map((text) => (
              <li key={text}>{text}</li>
            ))}
          </ul>
        </section>
      </div>
    </Page>
  );
}

function Boxes({ title, lines }: { readonly title: string; readonly lines: readonly string[] }) {
  return (
    <section>
      <h2 className={subheading}>{title}</h2>
      <ul className="mt-1">
        {lines.map((text) => (
          <li key={text} className="flex items-start gap-3 border-b border-line py-2">
            <span aria-hidden className="mt-0.5 size-4 shrink-0 border-2 border-quiet" />
            {text}
          </li>
        ))}
      </ul>
    </section>
  );
}
