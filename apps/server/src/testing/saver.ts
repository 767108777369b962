/**
 * A server that saves in a folder under the file layer of `power-cut.mjs`, for a test: while it does, images of what a power
 * cut would leave are written beside it, and for each `cut FOLDER MAP VERSION`, the last version acknowledged by then.
 */
import { makeApp } from '../app.ts';
import { PLACES } from './places.ts';

const [cuts, saves] = process.argv.slice(2).map(Number) as [number, number];
const folder = process.env.POWER_CUT_ROOT!;
const { powerCut } = globalThis as unknown as { powerCut: (to: string) => void };
const { app } = await makeApp({ ...PLACES, dataDir: folder });
const call = async (method: 'POST', url: string, payload?: object) =>
  (await app.inject({ method, url, ...(payload ? { payload } : {}) })).json<Record<string, unknown>>();
const project = await call('POST', '/api/projects', { name: 'Cut' });
const map = (await call('POST', '/api/maps', { projectId: project.id, name: 'Cut', template: 'one-room' }))
  .id as string;
let acknowledged = 1;

/** Now and then a save that is large enough to lie in a file of its own. */
const item = (version: number) => ({
  id: `light${version}`,
  kind: 'pointLight',
  at: [version, 0, 100],
  turn: 0,
  params: { candela: 5 },
  ...(version % 17 === 0 ? { note: 'x'.repeat(80_000) } : {}),
});

for (let k = 0; k < cuts; k++) {
  // The cut comes at no moment in particular: between two turns of the loop while saves are on their way.
  let open = true;
  const work = (async () => {
    for (let n = 0; n < saves || open; n++) {
      const light = item(acknowledged);
      const saved = await call('POST', `/api/maps/${map}/changes`, {
        baseVersion: acknowledged,
        items: [{ in: 'entities', id: light.id, item: light }],
      });
      if (saved.version !== acknowledged + 1) throw new Error(JSON.stringify(saved));
      acknowledged++;
    }
  })();
  await new Promise((done) => setTimeout(done, 20 + ((k * 7919) % 130)));
  const known = acknowledged;
  powerCut(`${folder}-${k}`);
  console.log(`cut ${folder}-${k} ${map} ${known}`);
  open = false;
  await work;
}
process.exit(0);
