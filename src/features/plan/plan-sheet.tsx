import { bluntedBy, type Phase, unitOfHold } from '@/core/course';
import { expectedCourse, judge, waitOf } from '@/core/judging';
import { holdRule, holdRuleShort, measureRule, permittedBy, roomOfHold, timeText } from '@/core/limits';
import type { Plan, Planned } from '@/core/planning';
import type { Procedure } from '@/core/procedures';
import { unitLabel } from '@/core/quantities';
import { SightFigures } from '@/features/sight/sight-figures';
import { Disclosure } from '@/ui/disclosure';
import { Notice } from '@/ui/notice';

const clock = (seconds: number): string =>
  seconds % 3600 === 0
    ? `${seconds / 3600} h`
    : seconds % 60 === 0
      ? `${seconds / 60} min`
      : seconds > 120
        ? `${Math.floor(seconds / 60)} min ${seconds % 60} s`
        : `${seconds} s`;

/** What the answers come to: pressures, times, limit and where it comes from, and what the test can see. */
export function PlanSheet({
  planned: { plan, volume, gaugeFindings, advice },
  procedure,
  sharpen,
}: {
  readonly planned: Planned;
  readonly procedure: Pick<Procedure, 'kit' | 'tasks'>;
  /** What would sharpen it, where it can still be changed. */
  readonly sharpen?: React.ReactNode;
}) {
  // What waits how long if all goes well.
  const course = expectedCourse(plan, judge(plan, []));
  const judging = plan.phases.find(({ id }) => id === plan.judgedBy);
  const house = plan.figures.filter(({ source }) => source === 'house rule');
  const own = plan.figures.filter(({ source }) => source === 'own procedure');
  const asked = plan.figures.filter(({ source }) => source === 'this job');
  const blunted = plan.sight.flatMap((part) => bluntedBy(part) ?? []);
  return (
    <div className="space-y-4">
      {gaugeFindings.map(({ code, message }) => (
        <Notice key={code + message} tone="stop">
          This cannot give a pass. {message}
        </Notice>
      ))}
      {judging !== undefined && <Headline plan={plan} phase={judging} />}
      <Timeline course={course} plan={plan} tasks={procedure.tasks} />
      <section aria-label="What it can see" className="space-y-3 border-t border-line pt-3">
        <h2 className="font-medium">What it can see</h2>
        {blunted.map((text) => (
          <Notice key={text} tone="caution">
            {text}
          </Notice>
        ))}
        <SightFigures parts={plan.sight} says={plan.sightSays} large />
        {sharpen}
      </section>
      {advice
        .flatMap((one) => (typeof one === 'string' ? [] : [one.beware]))
        .map((text) => (
          <Notice key={text} tone="caution">
            {text}
          </Notice>
        ))}
      <ul className="space-y-1 text-[0.95rem]">
        {advice
          .filter((one) => typeof one === 'string')
          .map((text) => (
            <li key={text}>{text}</li>
          ))}
      </ul>
      <dl className="space-y-2 text-[0.95rem]">
        {plan.volume.how === 'unknown' && <Row name="Volume">Not known: limits stand without a rate.</Row>}
        {volume.totalL > 0 && (
          <Row name="Volume">
            <span className="figures">{plan.volume.litres} L</span>{' '}
            <span className="text-quiet">
              (
              {plan.volume.how === 'schedule'
                ? `pipe ${volume.pipesL.toFixed(2)}, fittings ${volume.fittingsL.toFixed(2)}`
                : `as ${plan.volume.how} ${volume.pipesL.toFixed(2)}`}
              {volume.meterL > 0 && `, meter ${volume.meterL}`}
              {volume.rigHoseL > 0 && `, rig ${volume.rigHoseL}`}
              {plan.volume.how === 'measured' && ', all in what was let in'})
            </span>
            {plan.volume.lowest !== undefined && (
              <span className="block text-quiet">
                Estimated from <span className="figures">{plan.volume.lowest}</span> L; planned for the larger.
              </span>
            )}
          </Row>
        )}
        <Row name="Limit">
          {plan.derivation.map((line) => (
            <span key={line} className="block">
              {line}
            </span>
          ))}
        </Row>
        {house.length > 0 && (
          <Row name="House rule">
            <Changed figures={house} />
          </Row>
        )}
        {own.length > 0 && (
          <Row name="Own figures">
            <Changed figures={own} />
          </Row>
        )}
        {asked.length > 0 && (
          <Row name="For this job">
            <Changed figures={asked} />
          </Row>
        )}
        <Row name="Not tested">{plan.notTested.join('. ')}.</Row>
        <Row name="Take along">
          <Disclosure title={`Kit list, ${procedure.kit.length} lines`}>
            <ul className="list-inside list-[square]">
              {procedure.kit.map((line) => (
                <li key={line}>{line}</li>
              ))}
            </ul>
          </Disclosure>
        </Row>
      </dl>
      <p className="text-sm text-quiet">Local code, the maker’s instructions and licensed practice come first.</p>
    </div>
  );
}

/** What the deciding phase begins from, and what decides it. */
function Headline({ plan, phase }: { readonly plan: Plan; readonly phase: Phase }) {
  const big = (label: string, figures: string, unit: string, rule: React.ReactNode) => (
    <div className="slab p-4">
      <p className="text-quiet">{label}</p>
      <p className="figures text-4xl font-semibold">
        {figures} <span className="text-xl">{unit}</span>
      </p>
      <p className="mt-2 text-lg leading-snug">{rule}</p>
    </div>
  );
  switch (phase.kind) {
    case 'hold': {
      const unit = unitLabel(unitOfHold(plan, phase));
      const { limit: criterion } = phase;
      // Where an outcome that is permitted only leads on, it is said beside it.
      const next = roomOfHold(criterion).outcomes(criterion).includes('permitted')
        ? plan.phases.find((one) =>
            one.when.flat().some((when) => 'outcome' in when && when.phase === phase.id && when.outcome.includes('permitted')),
          )
        : undefined;
      // Another circuit is held with it, from a pressure of its own.
      const other = plan.phases.find((one) => one.kind === 'hold' && one.id === phase.alongside);
      // A level starts wherever it was filled to; what counts is how far it may move.
      if (phase.unit === 'mm') return big(phase.title, `${clock(phase.seconds)}`, '', holdRule(criterion, unit));
      return big(
        // Some are raised to it and some bled down: the hold begins there.
        phase.fed === true ? 'Stands at' : 'The hold begins at',
        `${phase.band.low}–${phase.band.high}`,
        unit,
        <>
          {holdRule(criterion, unit)}
          {other?.kind === 'hold' ? ` At the same time ${other.title}, from ${other.band.low}–${other.band.high} ${unit}.` : ''}
          {next === undefined ? '' : ` That alone is no pass: “${next.title}” comes then.`}
        </>,
      );
    }
    case 'measure': {
      const permitted = permittedBy(phase.limit);
      return permitted === undefined
        ? big(phase.title, `${plan.highest}`, unitLabel(plan.unit), measureRule(phase.limit))
        : big('Permitted', permitted.figure, unitLabel(permitted.unit), measureRule(phase.limit));
    }
    default:
      return (
        <div className="slab p-4">
          <p className="text-quiet">{phase.title}</p>
          <p className="text-lg leading-snug">{phase.say}</p>
        </div>
      );
  }
}

/** Figures that are not the procedure's, each with the procedure's beside it. */
const Changed = ({ figures }: { readonly figures: Planned['plan']['figures'] }) =>
  figures.map(({ id, label, value, unit, procedureValue, reference }) => (
    <span key={id} className="block">
      {label} <b className="figures">{value}</b> {unit} (procedure {procedureValue}; {reference})
    </span>
  ));

function Row({ name, children }: { readonly name: string; readonly children: React.ReactNode }) {
  return (
    <div className="grid grid-cols-[6.5rem_1fr] gap-3 border-t border-line pt-2">
      <dt className="text-quiet">{name}</dt>
      <dd className="min-w-0">{children}</dd>
    </div>
  );
}

/** The timed phases in proportion: what waits how long. */
function Timeline({ course, plan, tasks }: { readonly course: readonly Phase[]; readonly plan: Plan; readonly tasks: Procedure['tasks'] }) {
  const holds = course.filter((phase) => phase.kind === 'hold');
  const total = holds.reduce((sum, hold) => sum + waitOf(hold), 0);
  const hands = tasks.reduce((sum, { activeMinutes }) => sum + activeMinutes, 0);
  return (
    <div>
      {holds.length > 0 && (
        <ol className="flex flex-wrap gap-1" aria-label="Timed phases">
          {holds.map((phase) => (
            <li
              key={phase.id}
              className="min-w-20 border-t-4 border-action bg-surface px-2 py-1.5"
              style={{ flexGrow: Math.max(1, Math.sqrt(phase.seconds)), flexBasis: 0 }}
            >
              <span className="block font-medium leading-tight">{phase.title}</span>
              <span className="figures block text-sm">
                {clock(phase.seconds)}
                {phase.alongside !== undefined && <span className="block text-xs text-quiet">at the same time</span>}
              </span>
              {phase.unit !== 'mm' && (
                <span className="figures block text-xs text-quiet">
                  {phase.band.low}–{phase.band.high} {unitLabel(unitOfHold(plan, phase))}
                </span>
              )}
            </li>
          ))}
        </ol>
      )}
      <p className="mt-1 text-sm text-quiet">
        {total > 0 ? `${clock(total)} of waiting, about` : 'About'} {hands} min of hands, closing steps included.
      </p>
    </div>
  );
}

/** The sheet in one line, for a phone. */
export function sheetLine({ plan, gaugeFindings }: Planned): string {
  const judging = plan.phases.find(({ id }) => id === plan.judgedBy);
  const fits = plan.gauge.id === 'none' ? [] : [gaugeFindings.length === 0 ? 'gauge fits' : 'gauge does not fit'];
  if (judging?.kind === 'measure') return [measureRule(judging.limit), ...fits].join(' · ');
  if (judging?.kind !== 'hold') return [judging?.title ?? plan.procedure.title, ...fits].join(' · ');
  const { limit: criterion } = judging;
  const unit = unitLabel(unitOfHold(plan, judging));
  return [
    ...(judging.unit === 'mm' ? [] : [`begins at ${judging.band.low}–${judging.band.high} ${unit}`]),
    `hold ${timeText(judging.seconds)}`,
    holdRuleShort(criterion, unit),
    ...sureOf(plan),
    ...fits,
  ].join(' · ');
}

/** What the hold that judges is sure of, in two words. */
function sureOf({ sight, judgedBy }: Plan): readonly string[] {
  const part = sight.find(({ phase }) => phase === judgedBy) ?? sight[0];
  return part?.sure === undefined ? [] : [`sure above ${part.sure} ${unitLabel(part.unit)}`];
}
