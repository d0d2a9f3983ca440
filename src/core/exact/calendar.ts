/** Civil date of a count of ms since 1970, YYYY-MM-DD, without the engine's calendar (days-from-civil, turned round). */
export function dateText(milliseconds: number): string {
  const days = Math.floor(milliseconds / 86_400_000) + 719_468;
  const era = Math.floor(days / 146_097);
  const dayOfEra = days - era * 146_097;
  const yearOfEra = Math.floor(
    (dayOfEra - Math.floor(dayOfEra / 1460) + Math.floor(dayOfEra / 36_524) - Math.floor(dayOfEra / 146_096)) / 365,
  );
  const dayOfYear = dayOfEra - (365 * yearOfEra + Math.floor(yearOfEra / 4) - Math.floor(yearOfEra / 100));
  const shifted = Math.floor((5 * dayOfYear + 2) / 153);
  const day = dayOfYear - Math.floor((153 * shifted + 2) / 5) + 1;
  const month = shifted < 10 ? shifted + 3 : shifted - 9;
  const year = yearOfEra + era * 400 + (month <= 2 ? 1 : 0);
  return `${String(year).padStart(4, '0')}-${String(month).padStart(2, '0')}-${String(day).padStart(2, '0')}`;
}

/** A moment that a device wrote down, and how far its clock was ahead of the server's, ms. */
export interface Observed {
  readonly observedAt: number;
  readonly offsetMinutes: number;
  readonly skew?: number;
}

/** When it was by the server's clock, ms UTC: the device's own time where nothing is known against it. */
export const datedAt = ({ observedAt, skew = 0 }: Pick<Observed, 'observedAt' | 'skew'>): number => observedAt - skew;

/** Local date of a moment, YYYY-MM-DD. */
export const localDate = (event: Observed): string => dateText(datedAt(event) + event.offsetMinutes * 60_000);

/** Days from 1970-01-01 to a date of the calendar. */
export function daysFromCivil(year: number, month: number, day: number): number {
  const y = month <= 2 ? year - 1 : year;
  const era = Math.floor(y / 400);
  const yearOfEra = y - era * 400;
  const dayOfYear = Math.floor((153 * (month + (month > 2 ? -3 : 9)) + 2) / 5) + day - 1;
  return era * 146_097 + yearOfEra * 365 + Math.floor(yearOfEra / 4) - Math.floor(yearOfEra / 100) + dayOfYear - 719_468;
}
