/** A line of the table: what was measured, the figure, what it is held against, and what is wanted. */
export type Say = (what: string, measured: string, reference: string, wanted: string) => unknown;

const middleOf = (values: readonly number[]): number => values.toSorted((a, b) => a - b)[Math.floor(values.length / 2)];

/** Once, ms. Only what answers later is waited for: a wait costs as much as the shortest works. */
async function once(work: () => unknown): Promise<number> {
  const from = performance.now();
  const answer = work();
  if (answer instanceof Promise) await answer;
  return performance.now() - from;
}

/** Median time of a work, ms, once it is warm. */
export async function median(rounds: number, work: () => unknown): Promise<number> {
  for (let warm = 0; warm < rounds; warm += 1) await once(work);
  const times: number[] = [];
  for (let round = 0; round < rounds; round += 1) times.push(await once(work));
  return middleOf(times);
}

/**
 * Two works in turn, each once it is warm, so that a busy moment of the machine falls on both: the medians of each and of their
 * ratio. Each turn is the middle of three: what the other leaves behind is cleared away in the first.
 */
export async function paired(
  rounds: number,
  reference: () => unknown,
  work: () => unknown,
): Promise<{ readonly reference: number; readonly measured: number; readonly ratio: number }> {
  const turn = async (one: () => unknown): Promise<number> => middleOf([await once(one), await once(one), await once(one)]);
  const rows: { readonly reference: number; readonly measured: number }[] = [];
  for (let round = 0; round < rounds * 2; round += 1) {
    const row = { reference: await turn(reference), measured: await turn(work) };
    if (round >= rounds) rows.push(row);
  }
  return {
    reference: middleOf(rows.map((row) => row.reference)),
    measured: middleOf(rows.map((row) => row.measured)),
    ratio: middleOf(rows.map((row) => row.measured / row.reference)),
  };
}
