const dayMs = 86_400_000;

/**
 * The moment that a watch shows, ms: the one nearest to the device's own time with that time of day. Words where it is no time.
 * @param text `14:03:20`, `2.03.20 pm` or `140320`
 */
export function watchMoment(text: string, now: number, offsetMinutes: number): number | string {
  const match = /^\s*(\d{1,2})[:.\s]?(\d{2})[:.\s]?(\d{2})\s*([ap])?\.?m?\.?\s*$/i.exec(text);
  const [hour, minute, second] = (match ?? []).slice(1, 4).map(Number);
  const half = match?.[4]?.toLowerCase();
  if (match === null || minute > 59 || second > 59 || hour > 23 || (half !== undefined && (hour < 1 || hour > 12)))
    return 'Write hours, minutes and seconds, such as 14:03:20.';
  const hours = half === undefined ? hour : (hour % 12) + (half === 'p' ? 12 : 0);
  const ofDay = ((hours * 60 + minute) * 60 + second) * 1000 - offsetMinutes * 60_000;
  return ofDay + Math.round((now - ofDay) / dayMs) * dayMs;
}
