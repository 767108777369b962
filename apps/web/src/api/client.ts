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
  if (!response.ok) throw await refusalOf(response);
  return (await response.json()) as T;
}

/** What the server said when it refused. */
async function refusalOf(response: Response): Promise<ApiError> {
  const error = (await response.json().catch(() => null)) as ErrorBody | null;
  return new ApiError(
    response.status,
    error?.code ?? 'server.failed',
    error?.message ?? 'The server could not do this. Try again.',
  );
}

/** Sends files as a form; throws {@link ApiError} with a sentence that can be shown. */
export async function upload<T>(path: string, form: FormData, signal: AbortSignal): Promise<T> {
  const response = await fetch(path, { method: 'POST', body: form, signal }).catch(() => {
    throw signal.aborted
      ? new ApiError(0, 'upload.cancelled', 'The import was stopped. Nothing of it was kept.')
      : new ApiError(0, 'server.unreachable', 'The server does not answer. Start it and import again.');
  });
  if (!response.ok) throw await refusalOf(response);
  const body = (await response.json().catch(() => null)) as T | null;
  // What cannot be read is no answer.
  if (!body) throw await refusalOf(response);
  return body;
}

/** Reads a file; throws {@link ApiError} with a sentence that can be shown. */
export async function getFile(path: string, signal: AbortSignal): Promise<Uint8Array> {
  const response = await fetch(path, { signal }).catch(() => {
    throw new ApiError(0, 'server.unreachable', 'The server does not answer. Try again when it is back.');
  });
  if (!response.ok) throw await refusalOf(response);
  return new Uint8Array(await response.arrayBuffer());
}

export const get = <T>(path: string): Promise<T> => api<T>('GET', path);
