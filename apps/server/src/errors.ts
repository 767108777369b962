import type { FastifyInstance } from 'fastify';
import { EditError, MapFileError } from '@yesca/core';
import type { ErrorBody } from '@yesca/contract';

/** A refusal: a status, a stable code and a sentence that says what to do. */
export class Refusal extends Error {
  readonly status: number;
  readonly code: string;
  readonly place?: string;
  constructor(status: number, code: string, message: string, place?: string) {
    super(message);
    this.status = status;
    this.code = code;
    this.place = place;
  }
}

export const notFound = (what: string): Refusal =>
  new Refusal(404, `${what}.notFound`, `This ${what} is not here. It may have been deleted; go back to the Shelf.`);

/** Turns whatever went wrong into a code and a sentence; never a stack. */
export function errorBody(error: unknown): { status: number; body: ErrorBody } {
  if (error instanceof Refusal)
    return {
      status: error.status,
      body: { code: error.code, message: error.message, ...(error.place ? { place: error.place } : {}) },
    };
  if (error instanceof MapFileError)
    return { status: 422, body: { code: error.code, message: error.message, place: error.place } };
  if (error instanceof EditError) return { status: 422, body: { code: error.code, message: error.message } };
  const known = databaseRefusal(error) ?? requestRefusal(error);
  if (known) return errorBody(known);
  return {
    status: 500,
    body: {
      code: 'server.failed',
      message:
        'The server could not do this. Nothing was changed; try again, and look at its log if it keeps happening.',
    },
  };
}

/** What the database or the disk refused, in words. */
function databaseRefusal(error: unknown): Refusal | null {
  // The query is wrapped in an error of its own; what the database said is its cause.
  const { code, cause } = error as { code?: string; cause?: { code?: string } };
  const codes = [code, cause?.code];
  const is = (...wanted: string[]) => codes.some((c) => c !== undefined && wanted.includes(c));
  if (is('ENOSPC', 'EDQUOT', '53100'))
    return new Refusal(
      507,
      'disk.full',
      'The disk of the server is full. Nothing was changed; make room there, then try again.',
    );
  if (is('23505', '40001', '40P01'))
    return new Refusal(
      409,
      'data.raced',
      'Somebody else did the same at the same time. Look at what is there now, and try again.',
    );
  if (is('23503')) return new Refusal(404, 'address.notFound', 'Something that this belongs to is not here any more.');
  if (is('22021', '22P05', '22P02', '22003', '22001'))
    return new Refusal(
      400,
      'request.invalid',
      'A text or number in this cannot be stored. Leave out control characters, and keep numbers small.',
    );
  return null;
}

/** What was wrong with a request before it came to anybody. */
function requestRefusal(error: unknown): Refusal | null {
  const { statusCode, code } = error as { statusCode?: number; code?: string };
  if (statusCode === 413)
    return new Refusal(
      413,
      'request.tooLarge',
      'This is larger than the server takes here (72 MB for a map). Split it in two.',
    );
  if (statusCode === 415)
    return new Refusal(415, 'request.kind', 'Send JSON (application/json), or a form where files are sent.');
  if (statusCode === 503)
    return new Refusal(
      503,
      'server.busy',
      'The server is stopping, or has more to do than it can. Try again in a moment.',
    );
  if (
    error instanceof RangeError ||
    (code?.startsWith('FST_') && (statusCode ?? 500) < 500) ||
    (statusCode && statusCode >= 400 && statusCode < 500)
  )
    return new Refusal(
      statusCode && statusCode < 500 ? statusCode : 400,
      'request.unreadable',
      'The request could not be read. Send JSON as the API describes.',
    );
  return null;
}

export function handleErrors(app: FastifyInstance): void {
  app.setErrorHandler((error, request, reply) => {
    const { status, body } = errorBody(error);
    if (status >= 500) request.log.error(error);
    void reply.status(status).send(body);
  });
}
