import { sql } from 'drizzle-orm';
import { boolean, customType, integer, timestamp, uuid } from 'drizzle-orm/pg-core';

export const bytes = customType<{ data: Buffer }>({ dataType: () => 'bytea' });
export const transactionId = customType<{ data: string }>({ dataType: () => 'xid8' });
export const instant = (name: string) => timestamp(name, { withTimezone: true, mode: 'date' });
export const id = () => uuid('id').primaryKey();
/** Every table of the firm's own carries this, and a policy on it (see the row-security migration). */
export const firmId = () => uuid('firm_id').notNull();

/**
 * The transaction that last changed a row, written by a trigger: differences are read from it, and what two write at the same time
 * is missed by neither.
 */
export const changedIn = () => transactionId('changed_in').notNull().default(sql`pg_current_xact_id()`);
/** Of what is kept in the register: changes are counted, and nothing is taken away. */
export const kept = () => ({
  version: integer('version').notNull().default(1),
  putAway: boolean('put_away').notNull().default(false),
  changedIn: changedIn(),
});
