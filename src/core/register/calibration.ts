import { date, misfit, type Of, shape, text } from '../exact';
import type { Problem } from '../quantities';
import { isCalendarDay } from './faults';

/** A calibration of an instrument, by its certificate. It is written once and never changed. */
export const calibrationShape = shape({ doneOn: date, dueOn: date, reference: { ...text, maxLength: 80 } });
export type Calibration = Of<typeof calibrationShape>;

/** What is wrong with a calibration as somebody wrote it down on `today`; undefined where nothing is. */
export function calibrationFault(said: unknown, today: string): Problem | undefined {
  const { doneOn, dueOn, reference } = (typeof said === 'object' && said !== null ? said : {}) as Readonly<Record<string, unknown>>;
  const fault = (field: string, message: string): Problem => ({ code: 'form', field, message });
  if (typeof doneOn !== 'string' || !/^\d{4}-\d{2}-\d{2}$/.test(doneOn)) return fault('doneOn', 'Give the date of the calibration.');
  if (typeof dueOn !== 'string' || !/^\d{4}-\d{2}-\d{2}$/.test(dueOn)) return fault('dueOn', 'Give the date when the next is due.');
  if (!isCalendarDay(doneOn)) return fault('doneOn', 'That is not a date of the calendar.');
  if (!isCalendarDay(dueOn)) return fault('dueOn', 'That is not a date of the calendar.');
  if (typeof reference !== 'string' || reference.trim() === '') return fault('reference', 'Give the certificate’s reference.');
  if (reference.length > 80) return fault('reference', 'Keep the reference under 80 characters.');
  if (doneOn > today) return fault('doneOn', 'The calibration cannot lie in the future.');
  if (dueOn <= doneOn) return fault('dueOn', 'The next calibration must be due after this one.');
  const wrong = misfit(calibrationShape, { doneOn, dueOn, reference });
  return wrong === undefined ? undefined : fault('reference', `This cannot be kept: ${wrong}.`);
}
