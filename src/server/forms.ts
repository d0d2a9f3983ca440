import { type AnyObjectSchema, type InferType, ValidationError } from 'yup';
import { type Answer, answer, refuse } from './answers';

/** Checks what a form sent; the first fault names its field. */
export async function checked<S extends AnyObjectSchema>(schema: S, input: unknown): Promise<Answer<InferType<S>>> {
  try {
    return answer(await schema.validate(input, { abortEarly: true, stripUnknown: true }));
  } catch (error) {
    if (!(error instanceof ValidationError)) throw error;
    return refuse(400, 'form', error.message, error.path);
  }
}
