/** What the database said, without the query, its parameters or any value: it may be logged. */
export class DatabaseFault extends Error {
  override readonly name = 'DatabaseFault';
  /** SQLSTATE, or the code of the connection's own fault. */
  readonly code: string;
  readonly constraint?: string;

  constructor(code: string, constraint?: string) {
    super(`the database refused: ${code}${constraint === undefined ? '' : ` (${constraint})`}`);
    this.code = code;
    this.constraint = constraint;
  }

  /** It has too much to do, or waited too long for another: asking again may help. */
  get isBusy(): boolean {
    return busy.has(this.code) || this.code.startsWith('08') || this.code.startsWith('57P');
  }

  get isDuplicate(): boolean {
    return this.code === '23505';
  }
}

/** Lock and statement timeouts, deadlock and serialization, too many connections, disk or memory full, no connection. */
const busy = new Set([
  '55P03',
  '57014',
  '25P03',
  '40001',
  '40P01',
  '53000',
  '53100',
  '53200',
  '53300',
  'ECONNREFUSED',
  'ECONNRESET',
  'EPIPE',
  'ETIMEDOUT',
  'no-connection',
]);

/** The same fault without anybody's words; what is no database's fault stays as it is. */
export function withoutWords(error: unknown): unknown {
  for (let one: unknown = error; one instanceof Error; one = one.cause) {
    const { code, constraint, severity, message } = one as Error & { code?: unknown; constraint?: unknown; severity?: unknown };
    if (one instanceof DatabaseFault) return one;
    if (typeof code === 'string' && (severity !== undefined || busy.has(code)))
      return new DatabaseFault(code, typeof constraint === 'string' ? constraint : undefined);
    if (/timeout exceeded when trying to connect|Connection terminated|connection timeout/i.test(message))
      return new DatabaseFault('no-connection');
  }
  // The library's own message quotes query and parameters.
  if (error instanceof Error && error.message.startsWith('Failed query')) return new DatabaseFault('unknown');
  return error;
}
