import { asc, desc, eq, inArray } from 'drizzle-orm';
import { dateText } from '@/core/judging';
import { type HouseRule, inputOf, type Plan, resolveFigures, standingOf, type Variant } from '@/core/planning';
import { procedureById } from '@/core/procedures';
import { compare, decimal } from '@/core/quantities';
import { type AnyInstrument, neverCalibrated, noGauge } from '@/core/sizing';
import type { Transaction } from '@/db/connection';
import { calibration, houseRule, instrument, ownProcedure } from '@/db/schema';
import { isUuid } from './answers';
import { now } from './clock';
import { writeFound } from './events';
import type { FoundBody } from './server-event';

/*
 * A plan says what its instruments, rules and procedure are. Here it is held against the firm's register as that stood when the
 * device took it along; what is otherwise goes into the run's log, where the judge reads it.
 */

/** What a device took along longer ago than this is no longer the firm's register. */
const mostKitAgeMs = 14 * 86_400_000;

/**
 * Looks up the instruments of a run's plan once more: the register may have learnt something. Rules and dates are those of the planning,
 * and are not looked at again.
 */
export const lookAgain = async (tx: Transaction, run: string, plan: Plan): Promise<unknown> =>
  writeFound(tx, run, await instrumentsFound(tx, plan));

/** Looks a run's plan up when it comes, and writes what is found into its log. */
export async function lookUp(tx: Transaction, run: string, plan: Plan): Promise<void> {
  const asOf = new Date(Math.min(plan.asOf ?? now(), now()));
  await writeFound(tx, run, [
    ...(await instrumentsFound(tx, plan)),
    ...(await rulesFound(tx, plan, asOf)),
    ...ageFound(asOf),
    buildFound(plan),
  ]);
}

const found = (about: FoundBody['about'], of: string, is: FoundBody['is'], text = ''): FoundBody => ({
  type: 'found',
  about,
  of,
  is,
  text,
});

const ageFound = (asOf: Date): readonly FoundBody[] => [
  now() - asOf.getTime() > mostKitAgeMs
    ? found('plan', 'register', 'differs', `It was planned with the register as it stood on ${dateText(asOf.getTime())}.`)
    : found('plan', 'register', 'as told'),
];

/** Whether this build, or the one before, makes such a plan of its answers. */
function buildFound(plan: Plan): FoundBody {
  const standing = standingOf(plan, dateText(now()));
  if (standing.is === 'same') return found('plan', 'build', 'as told');
  return standing.is === 'other words'
    ? found('plan', 'build', 'noted', 'It was planned by another version of the program, with the same steps and figures.')
    : found('plan', 'build', 'differs', standing.why);
}

/** Every instrument that the plan names, once. */
const namedIn = ({ gauge, instruments, weather }: Plan): readonly AnyInstrument[] => [
  ...new Map(
    [gauge, ...Object.values(instruments ?? {}), weather?.thermometer, weather?.barometer]
      .filter((one) => one !== undefined)
      .filter(({ id }) => id !== noGauge.id)
      .map((one) => [one.id, one] as const),
  ).values(),
];

async function instrumentsFound(tx: Transaction, plan: Plan): Promise<readonly FoundBody[]> {
  const named = namedIn(plan);
  const ids = named.map(({ id }) => id).filter(isUuid);
  const rows = ids.length === 0 ? [] : await tx.select().from(instrument).where(inArray(instrument.id, ids));
  const calibrations =
    ids.length === 0
      ? []
      : await tx.select().from(calibration).where(inArray(calibration.instrumentId, ids)).orderBy(desc(calibration.doneOn));
  return named.map((one) =>
    against(
      one,
      rows.find(({ id }) => id === one.id),
      calibrations.filter(({ instrumentId }) => instrumentId === one.id),
    ),
  );
}

function against(
  plan: AnyInstrument,
  row: typeof instrument.$inferSelect | undefined,
  calibrations: readonly (typeof calibration.$inferSelect)[],
): FoundBody {
  const say = (is: FoundBody['is'], text = '') => found('instrument', plan.id, is, text);
  const named = `${plan.name}, ${plan.serial || 'without a serial'}`;
  if (row === undefined) return say('differs', `${named}, is not in the register.`);
  if (row.simulated && !plan.simulated) return say('simulated', `${named}, is a simulated instrument.`);
  const same = (a: string, b: string) => compare(decimal(a), decimal(b)) === 0;
  const other = [
    row.kind !== plan.kind && `its kind is ${row.kind}`,
    row.unit !== plan.unit && `it shows ${row.unit}`,
    row.serial !== plan.serial && `its serial is ${row.serial}`,
    !same(row.readability, plan.readability) && `it shows steps of ${row.readability}`,
    !same(row.rangeLow, plan.rangeLow) && `its range begins at ${row.rangeLow}`,
    !same(row.rangeHigh, plan.rangeHigh) && `its range ends at ${row.rangeHigh}`,
    row.calibrationNeeded && !plan.calibration.needed && 'it needs calibration',
    !row.simulated && plan.simulated && 'it is no simulated instrument',
  ].filter((one) => one !== false);
  if (other.length > 0) return say('differs', `${named}: in the register ${other.join(', ')}.`);
  if (!plan.calibration.needed || plan.calibration.last === neverCalibrated) return say('as told');
  const { last, due } = plan.calibration;
  if (calibrations.some(({ doneOn, dueOn }) => doneOn === last && dueOn === due)) return say('as told');
  const [newest] = calibrations;
  return newest === undefined || newest.dueOn < dateText(now())
    ? say(
        'overdue',
        `${named}: ${newest === undefined ? 'no calibration of it is on file' : `its calibration was due on ${newest.dueOn}`}; the plan names one of ${last}.`,
      )
    : say('differs', `${named}: the register knows no calibration of ${last}, due ${due}.`);
}

/** House rules of a procedure as they stood then, and those that were set since. */
async function rulesAt(
  tx: Transaction,
  procedure: string,
  at: Date,
): Promise<{ readonly stood: readonly HouseRule[]; readonly since: readonly HouseRule[] }> {
  const rows = await tx.select().from(houseRule).where(eq(houseRule.procedure, procedure)).orderBy(asc(houseRule.version));
  const stood = new Map<string, HouseRule>();
  for (const { figure, value, reference, lifted, setAt } of rows)
    if (setAt <= at) {
      if (lifted) stood.delete(figure);
      else stood.set(figure, { procedure, figure, value, reference });
    }
  return { stood: [...stood.values()], since: rows.filter(({ setAt, lifted }) => setAt > at && !lifted) };
}

/** The version of an own procedure that a plan names, as it was published; undefined where none was, or it had been withdrawn by then. */
async function publishedAs(tx: Transaction, plan: Plan, at: Date): Promise<Variant | undefined> {
  const { variant } = plan.procedure;
  if (variant === undefined) return undefined;
  const rows = await tx.select().from(ownProcedure).where(eq(ownProcedure.variantId, variant.id)).orderBy(desc(ownProcedure.version));
  const row = rows.find(({ version }) => String(version) === variant.version);
  const standing = rows.find(({ publishedAt }) => publishedAt <= at);
  if (row === undefined || row.withdrawn || standing?.withdrawn === true) return undefined;
  const { base, title, reference, figures } = row;
  return { id: variant.id, base, title, version: variant.version, reference, figures };
}

/** Whether the plan's figures are those that the firm's rules and its own procedure give. */
async function rulesFound(tx: Transaction, plan: Plan, asOf: Date): Promise<readonly FoundBody[]> {
  const { stood, since } = await rulesAt(tx, plan.procedure.id, asOf);
  const own = await publishedAs(tx, plan, asOf);
  const { variant } = plan.procedure;
  const procedure =
    variant === undefined
      ? []
      : [
          own === undefined
            ? found(
                'procedure',
                variant.id,
                'differs',
                `The firm’s own procedure “${variant.title}”, version ${variant.version}, was not published, or was withdrawn.`,
              )
            : found('procedure', variant.id, 'as told'),
        ];
  const base = procedureById(plan.procedure.id);
  const { figures, problems } =
    base === undefined ? { figures: [], problems: [] } : resolveFigures(base, stood, own, inputOf(plan, dateText(now())).stricter);
  if (problems.length > 0) procedure.push(found('plan', 'figures', 'differs', `The firm’s rules give no plan: ${problems[0].message}`));
  const rules = plan.figures.map((figure): FoundBody => {
    const right = figures.find(({ id }) => id === figure.id);
    const fits = right === undefined || (right.value === figure.value && (right.source === figure.source || figure.source === 'this job'));
    return fits
      ? found('rule', figure.id, 'as told')
      : found(
          'rule',
          figure.id,
          'differs',
          `${figure.label}: it was planned with ${figure.value} ${figure.unit}; the firm’s rules give ${right.value} ${right.unit}${right.reference === undefined ? '' : ` (${right.reference})`}.`,
        );
  });
  const newer = since
    .filter(({ figure }) => plan.figures.some(({ id }) => id === figure))
    .map(({ figure, value, reference }) =>
      found(
        'rule',
        `since ${figure}`,
        'noted',
        `A house rule was set after this device last took the rules along: ${plan.figures.find(({ id }) => id === figure)?.label ?? figure}, ${value} (${reference}). This test ran without it.`,
      ),
    );
  return [...procedure, ...rules, ...newer];
}
