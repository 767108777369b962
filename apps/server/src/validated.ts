import { plainToInstance } from 'class-transformer';
import { validate, type ValidationError } from 'class-validator';
import { ID_PATTERN } from '@yesca/contract';
import { Refusal } from './errors.ts';

/** The body as an instance of its class; a refusal naming the first field that does not fit. */
export async function validated<T extends object>(type: new () => T, body: unknown): Promise<T> {
  if (typeof body !== 'object' || body === null || Array.isArray(body))
    throw new Refusal(400, 'request.invalid', 'Send a JSON object.');
  const torn = unstorable(body);
  if (torn !== null)
    throw new Refusal(
      400,
      'request.invalid',
      `${torn || 'The body'}: leave out control characters and halves of characters.`,
      torn,
    );
  const value = plainToInstance(type, body);
  const errors = await validate(value, { whitelist: true, forbidUnknownValues: true });
  const first: ValidationError | undefined = errors[0];
  if (first)
    throw new Refusal(
      400,
      'request.invalid',
      `${first.property}: ${Object.values(first.constraints ?? {})[0] ?? 'does not fit.'}`,
      first.property,
    );
  return value;
}

/** The first field of an object whose text holds what no row can: NUL, or half of a pair of code units. Null when none does. */
function unstorable(body: object): string | null {
  for (const [key, value] of Object.entries(body)) {
    // Names of an object's own workings are none of ours.
    if (key === 'constructor' || key === '__proto__') return key;
    // Map files are checked where they are read; they may hold anything that JSON can.
    if (key === 'document' && typeof value === 'string') continue;
    if (typeof value === 'string' && /\p{Surrogate}|[^\P{Cc}\t\n\r]/u.test(value)) return key;
    if (typeof value === 'object' && value !== null && unstorable(value) !== null) return key;
  }
  return null;
}

/** An identifier from an address; anything the server never hands out is not found. */
export function idOf(params: unknown, key = 'id'): string {
  const value = (params as Record<string, string>)[key] ?? '';
  if (!ID_PATTERN.test(value)) throw new Refusal(404, 'address.notFound', 'There is nothing at this address.');
  return value;
}
