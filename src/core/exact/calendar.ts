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

/** Local date of a moment, YYYY-MM-DD. */
export const localDate = (event: { readonly observedAt: number; readonly offsetMinutes: number }): string =>
  dateText(event.observedAt + event.offsetMinutes * 60_000);
