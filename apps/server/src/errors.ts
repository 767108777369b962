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
  const e = error as { statusCode?: number; code?: string };
  if (e.statusCode === 413)
    return {
      status: 413,
      body: {
        code: 'request.tooLarge',
        message: 'This is larger than the server takes (72 MB). Split the map in two.',
      },
    };
  if (e.statusCode && e.statusCode < 500)
    return {
      status: e.statusCode,
      body: { code: 'request.unreadable', message: 'The request could not be read. Send JSON as the API describes.' },
    };
  return {
    status: 500,
    body: {
      code: 'server.failed',
      message:
        'The server could not do this. Nothing was changed; try again, and look at its log if it keeps happening.',
    },
  };
}

export function handleErrors(app: FastifyInstance): void {
  app.setErrorHandler((error, request, reply) => {
    const { status, body } = errorBody(error);
    if (status >= 500) request.log.error(error);
    void reply.status(status).send(body);
  });
}
