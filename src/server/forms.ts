import { type AnyObjectSchema, type InferType, ValidationError } from 'yup';
import { type Answer, answer, refuse } from './answers';

/** A thing that says itself how it is to be written would be asked, and may not be able to. */
const isOdd = (value: unknown): boolean =>
  typeof value === 'object' &&
  value !== null &&
  (Object.hasOwn(value, 'toString') || Object.hasOwn(value, 'valueOf') || Object.values(value).some(isOdd));

/** Checks what a form sent; the first fault names its field. */
export async function checked<S extends AnyObjectSchema>(schema: S, input: unknown): Promise<Answer<InferType<S>>> {
  if (isOdd(input)) return refuse(400, 'form', 'What was sent is no form of ours: a field holds no text.');
  try {
    return answer(await schema.validate(input, { abortEarly: true, stripUnknown: true }));
  } catch (error) {
    if (!(error instanceof ValidationError)) throw error;
    return refuse(400, 'form', error.message, error.path);
  }
}
