/** A line of the table: what was measured, the figure, what it is held against, and what is wanted. */
export type Say = (what: string, measured: string, reference: string, wanted: string) => unknown;

/** Two works in turn, so that a busy moment of the machine falls on both: the median of each, and of their ratio. */
export type Paired = (
  rounds: number,
  reference: () => unknown,
  work: () => unknown,
) => Promise<{ readonly reference: number; readonly measured: number; readonly ratio: number }>;
