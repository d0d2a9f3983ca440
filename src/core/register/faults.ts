import { compare, dateText, decimal, isStorable, misfit, storableWords } from '../exact';
import { rowOf, sectionFaults } from '../locating';
import { isPressureUnit, type Problem, parseQuantity, unitsOf } from '../quantities';
import { parsePipeSchedule, parseVolume } from '../sizing';
import { type Said, shapes, type ThingKind } from './things';

/** What an instrument of a firm may show. */
export const shownKinds = ['pressure', 'flow', 'volume', 'length', 'turns', 'temperature'] as const;
const shownUnits: readonly string[] = shownKinds.flatMap((kind) => unitsOf(kind));

type Faults<K extends ThingKind> = (said: Said<K>) => readonly (Problem | undefined)[];

const fault = (field: string, message: string): Problem => ({ code: 'form', field, message });
const given = (field: string, value: string, message: string) => (value.trim() === '' ? fault(field, message) : undefined);
const isFigure = (value: string): boolean => /^-?[0-9]{1,12}(\.[0-9]{1,9})?$/.test(value);

/** 31 February is a date in form only. */
export function isCalendarDay(value: string): boolean {
  const parts = /^(\d{4})-(\d{2})-(\d{2})$/.exec(value);
  if (parts === null) return false;
  const days = daysSince1970(Number(parts[1]), Number(parts[2]), Number(parts[3]));
  return days >= 0 && dateText(days * 86_400_000) === value;
}

/** Days from 1970-01-01 to a day of the calendar in use; a 31 February counts on into March. */
function daysSince1970(year: number, month: number, day: number): number {
  // Years begin in March, so that the leap day comes last.
  const [y, m] = month > 2 ? [year, month - 3] : [year - 1, month + 9];
  const era = Math.floor(y / 400);
  const ofEra = y - era * 400;
  const ofYear = Math.floor((153 * m + 2) / 5) + day - 1;
  return era * 146_097 + ofEra * 365 + Math.floor(ofEra / 4) - Math.floor(ofEra / 100) + ofYear - 719_468;
}

const day = (field: string, value: string) =>
  value === '' || isCalendarDay(value) ? undefined : fault(field, 'That is not a date of the calendar.');

const faults: { readonly [K in ThingKind]: Faults<K> } = {
  site: ({ name, address }) => [given('name', name, 'Name the site.'), given('address', address, 'Give the address.')],
  system: ({ name, pipes, statedVolume, sections }) => {
    const [pipe] = parsePipeSchedule(pipes).problems;
    const volume = statedVolume.trim() === '' ? undefined : parseVolume(statedVolume);
    // Without sections it has those that its kind begins with.
    const [wrong] = sections.length === 0 ? [] : sectionFaults(sections.map(rowOf));
    return [
      given('name', name, 'Name the system, such as “Gas, flat 3”.'),
      pipe === undefined ? undefined : { ...pipe, field: 'pipes' },
      volume === undefined || volume.ok ? undefined : { ...volume.problem, field: 'statedVolume' },
      wrong === undefined ? undefined : { code: 'sections', field: wrong.field, message: wrong.message },
    ];
  },
  component: ({ kind, rating, height, fitted, removed }) => {
    const may = rating.trim() === '' ? undefined : parseQuantity(rating, 'pressure', 'bar');
    const high = height.trim() === '' ? undefined : parseQuantity(height.replace(/^\+/, ''), 'length', 'm');
    return [
      given('kind', kind, 'Say what it is, such as boiler, hob or manifold.'),
      may === undefined || may.ok ? undefined : fault('rating', `${may.problem.message} Write the rating with its unit, such as 6 bar.`),
      may?.ok === true && !/[a-z]/i.test(rating) ? fault('rating', 'Write the rating with its unit, such as 6 bar.') : undefined,
      high === undefined || high.ok ? undefined : fault('height', high.problem.message),
      day('fitted', fitted),
      day('removed', removed),
      fitted !== '' && removed !== '' && removed < fitted
        ? fault('removed', 'It was removed before it was fitted: look at the dates.')
        : undefined,
    ];
  },
  instrument: ({ name, kind, unit, readability, rangeLow, rangeHigh, serial, calibrationNeeded, simulated }) => [
    given('name', name, 'Name it as you would on site.'),
    shownUnits.includes(unit) ? undefined : fault('unit', 'Choose the unit that it shows.'),
    kind === 'barometer' && !isPressureUnit(unit as never) ? fault('unit', 'A barometer shows a pressure: choose hPa or mbar.') : undefined,
    kind === 'scale' && isPressureUnit(unit as never)
      ? fault('kind', 'A rule, a vessel or a dial shows no pressure: choose what kind of gauge it is.')
      : undefined,
    // What drifts is calibrated: nobody may say of it that it needs none.
    calibrationNeeded || simulated || kind === 'liquid' || kind === 'scale'
      ? undefined
      : fault('calibrationNeeded', 'Only a liquid column, a rule, a vessel or a dial needs no calibration.'),
    isFigure(readability) ? undefined : fault('readability', 'Give the smallest movement that it shows, such as 0.1.'),
    isFigure(rangeLow) ? undefined : fault('rangeLow', 'Give the lower end of its range.'),
    isFigure(rangeHigh) ? undefined : fault('rangeHigh', 'Give the upper end of its range.'),
    isFigure(readability) && compare(decimal(readability), decimal('0')) <= 0
      ? fault('readability', 'The smallest movement must be above zero.')
      : undefined,
    isFigure(rangeLow) && isFigure(rangeHigh) && compare(decimal(rangeLow), decimal(rangeHigh)) >= 0
      ? fault('rangeHigh', 'The range must end above where it starts.')
      : undefined,
    given('serial', serial, 'Give its serial number.'),
  ],
  equipment: ({ name, rating }) => {
    const may = rating.trim() === '' ? undefined : parseQuantity(rating, 'pressure', 'bar');
    return [
      given('name', name, 'Name it as you would on site.'),
      may === undefined || may.ok ? undefined : fault('rating', `${may.problem.message} Write the rating with its unit, such as 6 bar.`),
    ];
  },
  visit: ({ on }) => [isCalendarDay(on) ? undefined : fault('on', 'Give the date of the visit.')],
};

/** Names of fields as a form calls them, for what only their length is wrong with. */
const tooLong = (field: string, most: number): string =>
  `Keep this under ${most} characters${field === 'pipes' ? ': the schedule is too long' : ''}.`;

/**
 * What is wrong with what is said of a thing: the first fault, with the field that it stands at; undefined where nothing is.
 * @param said whatever came, of any shape
 */
export function faultOf<K extends ThingKind>(kind: K, said: unknown): Problem | undefined {
  const fields = shapes[kind].properties as Readonly<
    Record<string, { readonly maxLength?: number; readonly type?: string; readonly enum?: readonly unknown[] }>
  >;
  const entries = typeof said === 'object' && said !== null ? (said as Readonly<Record<string, unknown>>) : {};
  for (const [field, { maxLength = 0, type, enum: options }] of Object.entries(fields)) {
    const value = entries[field];
    if (options !== undefined && !options.includes(value)) return fault(field, 'Choose one of these.');
    if (type !== 'string' || typeof value !== 'string') continue;
    if (!isStorable(value)) return fault(field, storableWords.character);
    if (maxLength > 0 && value.length > maxLength) return fault(field, tooLong(field, maxLength));
  }
  const wrong = misfit(shapes[kind], said);
  const own = faults[kind] as Faults<ThingKind>;
  // What the shape refuses cannot be asked what it means; words of its own come first where it can.
  if (wrong === undefined) return own(said as never).find((one) => one !== undefined);
  return { code: 'form', message: `This is no ${kind} that can be kept: ${wrong}.` };
}
