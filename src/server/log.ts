import pino from 'pino';

/*
 * One line of JSON for each thing that an operator wants to know. Parameters of queries and people's words never come here:
 * of a fault its kind and its place are told, not its message, which may quote what somebody typed.
 */

const shared = globalThis as { __vastStoneLog?: pino.Logger };

export const log = (): pino.Logger => {
  shared.__vastStoneLog ??= pino({ level: process.env.VAST_LOG ?? 'info', base: undefined, timestamp: pino.stdTimeFunctions.isoTime });
  return shared.__vastStoneLog;
};

/** What may be told of a fault. */
export function faultFacts(error: unknown): Readonly<Record<string, unknown>> {
  if (!(error instanceof Error)) return { kind: typeof error };
  const { code, constraint } = error as { readonly code?: unknown; readonly constraint?: unknown };
  return {
    kind: error.name,
    ...(typeof code === 'string' ? { code } : {}),
    ...(typeof constraint === 'string' ? { constraint } : {}),
    // The frames alone: the first lines of a stack are the message.
    at: (error.stack ?? '')
      .split('\n')
      .filter((line) => /^\s+at /.test(line))
      .slice(0, 8)
      .map((line) => line.trim().replace(process.cwd(), '')),
    ...(error.cause === undefined ? {} : { cause: faultFacts(error.cause) }),
  };
}
