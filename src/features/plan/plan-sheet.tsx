import { expectedCourse } from '@/core/judging/course';
import { judge } from '@/core/judging/judge';
import type { Planned } from '@/core/planning/plan';
import type { HoldPhase } from '@/core/procedures/phases';
import { Notice } from '@/ui/notice';

const clock = (seconds: number): string =>
  seconds % 60 === 0 ? `${seconds / 60} min` : seconds > 120 ? `${Math.floor(seconds / 60)} min ${seconds % 60} s` : `${seconds} s`;

/** What the answers come to: pressures, times, limit and where it comes from, and what the test can see. */
export function PlanSheet({ planned: { plan, volume, gaugeFindings, advice } }: { readonly planned: Planned }) {
  // What waits how long if all goes well.
  const holds = expectedCourse(plan, judge(plan, [])).filter((phase) => phase.kind === 'hold');
  const judging = holds.find(({ id }) => id === plan.judgedBy);
  const permitted = judging?.criterion.kind === 'no-fall' ? judging.criterion.permitted : undefined;
  const house = plan.figures.filter(({ source }) => source === 'house rule');
  const own = plan.figures.filter(({ source }) => source === 'own procedure');
  return (
    <div className="space-y-4">
      {gaugeFindings.map(({ code, message }) => (
        <Notice key={code} tone="stop">
          This gauge cannot give a pass. {message}
        </Notice>
      ))}
      {advice.map((text) => (
        <Notice key={text} tone="caution">
          {text}
        </Notice>
      ))}
      <div className="slab p-4">
        <p className="text-quiet">Raise to</p>
        <p className="figures text-4xl font-semibold">
          {judging?.band.low}–{judging?.band.high} <span className="text-xl">{plan.unit}</span>
        </p>
        <p className="mt-2 text-lg leading-snug">
          {permitted === undefined ? (
            <>
              No perceptible fall: a movement of <b className="figures">{plan.limit}</b> {plan.unit} or more fails.
            </>
          ) : (
            <>
              A fall up to <b className="figures">{permitted}</b> {plan.unit} is permitted with the appliances connected; the pipework alone
              must then show less than <b className="figures">{plan.limit}</b>.
            </>
          )}
        </p>
      </div>
      <Timeline holds={holds} unit={plan.unit} />
      <dl className="space-y-2 text-[0.95rem]">
        <Row name="Volume">
          <span className="figures">{plan.volume.litres} L</span>{' '}
          <span className="text-quiet">
            (
            {plan.volume.how === 'schedule'
              ? `pipe ${volume.pipesL.toFixed(2)}, fittings ${volume.fittingsL.toFixed(2)}`
              : `as stated ${volume.pipesL.toFixed(2)}`}
            , meter {volume.meterL}, rig {volume.rigHoseL})
          </span>
          {plan.volume.lowest !== undefined && (
            <span className="block text-quiet">
              Estimated from <span className="figures">{plan.volume.lowest}</span> L; planned for the larger.
            </span>
          )}
        </Row>
        <Row name="Can see">
          a leak above <b className="figures">{plan.sight.litresPerHour} L/h</b>; a smaller one may pass unseen
          <span className="figures mt-0.5 block text-xs text-quiet">{plan.sight.working}</span>
        </Row>
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
        <Row name="Not tested">{plan.notTested.join('. ')}.</Row>
      </dl>
      <p className="text-sm text-quiet">Local code, the maker’s instructions and licensed practice come first.</p>
    </div>
  );
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
      <dd>{children}</dd>
    </div>
  );
}

/** The timed phases in proportion: what waits how long. */
function Timeline({ holds, unit }: { readonly holds: readonly HoldPhase[]; readonly unit: string }) {
  const total = holds.reduce((sum, { seconds }) => sum + seconds, 0);
  return (
    <div>
      <ol className="flex gap-1" aria-label="Timed phases">
        {holds.map(({ id, title, seconds, band }) => (
          <li key={id} className="min-w-20 border-t-4 border-action bg-surface px-2 py-1.5" style={{ flexGrow: seconds, flexBasis: 0 }}>
            <span className="block font-medium leading-tight">{title}</span>
            <span className="figures block text-sm">{clock(seconds)}</span>
            <span className="figures block text-xs text-quiet">
              {band.low}–{band.high} {unit}
            </span>
          </li>
        ))}
      </ol>
      <p className="mt-1 text-sm text-quiet">{clock(total)} of waiting, then the closing steps.</p>
    </div>
  );
}
