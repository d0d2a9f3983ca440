import { dateText } from '../exact/calendar';
import type { PaperLocale } from '../record';

/** Moments as a reader of the paper knows them: by the clock of the place, with its distance from UTC. */

const months = [
  'January',
  'February',
  'March',
  'April',
  'May',
  'June',
  'July',
  'August',
  'September',
  'October',
  'November',
  'December',
] as const;

/** A calendar date in words. @param date YYYY-MM-DD; @throws RangeError for anything else */
export function dateWords(date: string, locale: PaperLocale): string {
  const match = /^(\d{4})-(\d{2})-(\d{2})$/.exec(date);
  const month = months[Number(match?.[2]) - 1];
  if (match === null || month === undefined) throw new RangeError(`no date: ${date}`);
  const [, year, , day] = match;
  return locale === 'en-US' ? `${month} ${Number(day)}, ${year}` : `${Number(day)} ${month} ${year}`;
}

/** The local date of a moment in words. @param at ms UTC */
export const dayText = (at: number, offsetMinutes: number, locale: PaperLocale): string =>
  dateWords(dateText(at + offsetMinutes * 60_000), locale);

/** The local time of day; with seconds where they matter. */
export function hourText(at: number, offsetMinutes: number, locale: PaperLocale, withSeconds = false): string {
  const local = Math.floor((at + offsetMinutes * 60_000) / 1000);
  const ofDay = ((local % 86_400) + 86_400) % 86_400;
  const two = (value: number) => String(value).padStart(2, '0');
  const [hour, minute, second] = [Math.floor(ofDay / 3600), Math.floor(ofDay / 60) % 60, ofDay % 60];
  const rest = `:${two(minute)}${withSeconds ? `:${two(second)}` : ''}`;
  return locale === 'en-US' ? `${hour % 12 === 0 ? 12 : hour % 12}${rest} ${hour < 12 ? 'am' : 'pm'}` : `${two(hour)}${rest}`;
}

/** `UTC+1`, `UTC−3:30`, `UTC`. */
export function zoneText(offsetMinutes: number): string {
  if (offsetMinutes === 0) return 'UTC';
  const [hours, minutes] = [Math.floor(Math.abs(offsetMinutes) / 60), Math.abs(offsetMinutes) % 60];
  return `UTC${offsetMinutes > 0 ? '+' : '−'}${hours}${minutes === 0 ? '' : `:${String(minutes).padStart(2, '0')}`}`;
}

/** Day, time and zone of one moment. */
export const momentText = (at: number, offsetMinutes: number, locale: PaperLocale): string =>
  `${dayText(at, offsetMinutes, locale)}, ${hourText(at, offsetMinutes, locale)} (${zoneText(offsetMinutes)})`;

/** From when to when, the day once where it is one day. */
export function spanText(from: number, to: number, offsetMinutes: number, locale: PaperLocale): string {
  const [first, last] = [dayText(from, offsetMinutes, locale), dayText(to, offsetMinutes, locale)];
  const hour = (at: number) => hourText(at, offsetMinutes, locale);
  return first === last
    ? `on ${first} from ${hour(from)} to ${hour(to)} (${zoneText(offsetMinutes)})`
    : `from ${first}, ${hour(from)}, to ${last}, ${hour(to)} (${zoneText(offsetMinutes)})`;
}
