import type { Day } from './side-by-side';

/** A time in which something cannot be used. */
export interface Without {
  readonly of: 'water' | 'gas';
  readonly fromMinute: number;
  readonly toMinute: number;
}

/**
 * When occupiers are without water or gas on a day: from the first task that needs it off until the next that needs it on, or until
 * the last task that needed it off is over. Minutes from the day's start.
 */
export function withoutSupply({ tasks }: Day): readonly Without[] {
  return (['gas', 'water'] as const).flatMap((of): readonly Without[] => {
    const turned = tasks.filter(({ supply }) => supply?.of === of).sort((a, b) => a.startMinute - b.startMinute);
    const spans: Without[] = [];
    for (const { supply, startMinute, endMinute } of turned) {
      const last = spans.at(-1);
      const open =
        last !== undefined &&
        !turned.some((one) => one.supply?.state === 'on' && one.startMinute >= last.fromMinute && one.startMinute < startMinute);
      if (supply?.state === 'on') continue;
      if (open && last !== undefined) spans[spans.length - 1] = { ...last, toMinute: Math.max(last.toMinute, endMinute) };
      else spans.push({ of, fromMinute: startMinute, toMinute: endMinute });
    }
    return spans.map((span) => {
      const back = turned.find(({ supply, startMinute }) => supply?.state === 'on' && startMinute >= span.toMinute);
      return back === undefined ? span : { ...span, toMinute: back.endMinute };
    });
  });
}
