/** Minutes east of UTC of a zone at a moment. @param zone by its name in the zone database; one that there is not counts as UTC */
export function offsetOfZone(zone: string, at: number): number {
  try {
    const parts = new Intl.DateTimeFormat('en-US', { timeZone: zone, timeZoneName: 'longOffset' }).formatToParts(at);
    const text = parts.find(({ type }) => type === 'timeZoneName')?.value ?? '';
    const match = /GMT([+-])(\d{2}):(\d{2})/.exec(text);
    if (match === null) return 0;
    const minutes = Number(match[2]) * 60 + Number(match[3]);
    return match[1] === '-' ? -minutes : minutes;
  } catch {
    return 0;
  }
}

export const isZone = (zone: string): boolean => {
  try {
    new Intl.DateTimeFormat('en-US', { timeZone: zone });
    return true;
  } catch {
    return false;
  }
};
