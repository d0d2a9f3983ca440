/** Dates and times for pages made on the server: a fixed form, so that server and browser agree. */
const day = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', year: 'numeric', timeZone: 'UTC' });
const minute = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit', timeZone: 'UTC' });

export const dayText = (at: Date | number): string => day.format(at);
export const minuteText = (at: Date | number): string => `${minute.format(at)} UTC`;
