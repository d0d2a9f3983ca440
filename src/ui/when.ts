import { format } from 'date-fns/format';
import { formatDistanceToNowStrict } from 'date-fns/formatDistanceToNowStrict';
import { parseISO } from 'date-fns/parseISO';

/* Dates and times as people read them, in one place. */

const utcDay = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', year: 'numeric', timeZone: 'UTC' });
const utcMinute = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit', timeZone: 'UTC' });

/** For pages made on the server: a fixed form, so that server and browser agree. */
export const dayText = (at: Date | number): string => utcDay.format(at);
export const minuteText = (at: Date | number): string => `${utcMinute.format(at)} UTC`;

/** A local date such as `2026-12-03`, as `Thu 3 Dec`. */
export const weekday = (date: string): string => (date === '' ? '' : format(parseISO(date), 'EEE d MMM'));
/** A moment in the reader's own time: `3 Dec, 14:20`. */
export const momentText = (at: number): string => format(at, 'd MMM, HH:mm');
/** Its time of day: `14:20`. */
export const hourText = (at: number): string => format(at, 'HH:mm');
/** How long ago or how soon: `3 days ago`. */
export const sinceText = (at: number): string => formatDistanceToNowStrict(at, { addSuffix: true });

/** Days from one local date to another; negative where it lies before. */
export const daysBetween = (from: string, to: string): number =>
  Math.round((Date.parse(`${to}T00:00:00Z`) - Date.parse(`${from}T00:00:00Z`)) / 86_400_000);

/** A day in full: `Tuesday, 1 December 2026`. */
export const wholeDay = (at: number): string => format(at, 'EEEE, d MMMM yyyy');
/** To the second, in one form for every reader: `14:20:05`. */
export const secondText = (at: number): string => format(at, 'HH:mm:ss');
