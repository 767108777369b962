import type { FastifyInstance } from 'fastify';
import { Refusal } from './errors.ts';

/** JSON may be nested this deep; a map's own text comes as a string. */
const DEEPEST = 64;

const LOOPBACK = new Set(['localhost', '127.0.0.1', '[::1]']);

/** The name in a Host header or an origin, without its port. */
const nameOf = (host: string): string => host.replace(/:\d+$/, '').toLowerCase();

const CHANGES = new Set(['POST', 'PUT', 'PATCH', 'DELETE']);

/**
 * Keeps pages of elsewhere out: only requests to names that are served are answered (a page could have its own name lead
 * here), and what changes anything has to come from a page of this very address, or from no page at all.
 */
export function guardOrigin(
  app: FastifyInstance,
  { hosts = [], origins = [] }: { readonly hosts?: readonly string[]; readonly origins?: readonly string[] },
): void {
  const served = new Set([...LOOPBACK, ...hosts.map((h) => h.toLowerCase())]);
  app.addHook('onRequest', async ({ method, headers }) => {
    const host = headers.host ?? '';
    if (!served.has(nameOf(host)))
      throw new Refusal(
        421,
        'request.host',
        'This server is not reached under that name. Use the address it prints when it starts.',
      );
    if (!CHANGES.has(method)) return;
    const { origin } = headers;
    const site = headers['sec-fetch-site'];
    const own =
      origin === undefined || origin === `http://${host}` || origin === `https://${host}` || origins.includes(origin);
    if (!own || (origin === undefined && site !== undefined && site !== 'same-origin' && site !== 'none'))
      throw new Refusal(403, 'request.origin', 'Only pages of this server may change anything here.');
  });
}

/** How deep a JSON text is nested, told without parsing it; strings are passed over. */
export function depthOf(json: string): number {
  let depth = 0;
  let deepest = 0;
  let text = false;
  for (let i = 0; i < json.length; i++) {
    const c = json.charCodeAt(i);
    if (text) {
      if (c === 92) i++;
      else if (c === 34) text = false;
    } else if (c === 34) text = true;
    else if (c === 91 || c === 123) deepest = Math.max(deepest, ++depth);
    else if (c === 93 || c === 125) depth--;
  }
  return deepest;
}

/** Reads JSON bodies: not deeper than anything here is, and not meddling with prototypes. An empty body is none. */
export function readJson(app: FastifyInstance): void {
  const parse = app.getDefaultJsonParser('error', 'error');
  app.addContentTypeParser('application/json', { parseAs: 'string' }, (request, body, done) => {
    const text = String(body);
    if (text === '') return done(null, undefined);
    if (depthOf(text) > DEEPEST)
      return done(new Refusal(400, 'request.tooDeep', `This JSON is nested deeper than ${DEEPEST}.`));
    return void parse(request, text, done);
  });
}
