import type { ErrorBody } from '@yesca/contract';

/** A refusal of the server, or that it could not be reached. */
export class ApiError extends Error {
  readonly status: number;
  readonly code: string;
  constructor(status: number, code: string, message: string) {
    super(message);
    this.status = status;
    this.code = code;
  }
}

/** Calls the server; throws {@link ApiError} with a sentence that can be shown. */
export async function api<T>(
  method: 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE',
  path: string,
  body?: unknown,
): Promise<T> {
  let response: Response;
  try {
    response = await fetch(path, {
      method,
      ...(body === undefined ? {} : { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }),
    });
  } catch {
    throw new ApiError(
      0,
      'server.unreachable',
      'The server does not answer. What you see is kept here; it will be saved when the server is back.',
    );
  }
  if (!response.ok) {
    const error = (await response.json().catch(() => null)) as ErrorBody | null;
    throw new ApiError(
      response.status,
      error?.code ?? 'server.failed',
      error?.message ?? 'The server could not do this. Try again.',
    );
  }
  return (await response.json()) as T;
}

export const get = <T>(path: string): Promise<T> => api<T>('GET', path);
