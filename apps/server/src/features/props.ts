import { createReadStream } from 'node:fs';
import { join } from 'node:path';
import type { FastifyInstance } from 'fastify';
import { PROPS, propFacts } from '@yesca/stock';
import { Refusal } from '../errors.ts';

/** The files of a prop: its model, and the small picture of the library. */
const TYPES: Readonly<Record<string, string>> = { glb: 'model/gltf-binary', webp: 'image/webp' };

/** The props that ship: their list, models and pictures. */
export function propRoutes(app: FastifyInstance, { stockDir }: { readonly stockDir: string }): void {
  app.get('/api/stock/props', () => PROPS);
  app.get('/stock/props/:file', (request, reply) => {
    const { file } = request.params as { file: string };
    const [, name = '', type = ''] = /^([a-z0-9-]+)\.([a-z]+)$/.exec(file) ?? [];
    if (!propFacts(name) || !TYPES[type]) throw new Refusal(404, 'prop.notFound', 'There is no prop of that name.');
    return reply
      .type(TYPES[type])
      .header('cache-control', 'max-age=3600')
      .send(createReadStream(join(stockDir, 'props', `${name}.${type}`)));
  });
}
