import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { createInterface } from 'node:readline';
import { fileURLToPath } from 'node:url';
import { parseMap } from '@yesca/core';
import { makeApp } from './app.ts';
import { PLACES } from './testing/places.ts';

const at = (path: string) => fileURLToPath(new URL(path, import.meta.url));
const CUTS = Number(process.env.CUTS ?? 4);

test(`nothing that was acknowledged is lost in ${CUTS} power cuts, and everything can be read`, async () => {
  const folder = join(mkdtempSync(join(tmpdir(), 'yesca-cut-')), 'data');
  const child = spawn(
    process.execPath,
    ['--import', 'tsx', '--import', at('./testing/power-cut.mjs'), at('./testing/saver.ts'), String(CUTS), '3'],
    {
      cwd: at('..'),
      env: { ...process.env, POWER_CUT_ROOT: folder, NODE_OPTIONS: '' },
      stdio: ['ignore', 'pipe', 'inherit'],
    },
  );
  let cuts = 0;
  let last = 0;
  try {
    for await (const line of createInterface({ input: child.stdout })) {
      const [what, dataDir, map, version] = line.split(' ');
      if (what !== 'cut') continue;
      cuts++;
      last = Number(version);
      const { app } = await makeApp({ ...PLACES, dataDir: dataDir! });
      const response = await app.inject(`/api/maps/${map}`);
      const body = response.json<{ version: number; document: string }>();
      expect([line, response.statusCode]).toEqual([line, 200]);
      expect(body.version).toBeGreaterThanOrEqual(last);
      const doc = parseMap(body.document);
      for (let v = 1; v < body.version; v++) expect(doc.entities.has(`light${v}`)).toBe(true);
      // And it goes on from there.
      const light = { id: 'after', kind: 'spawn', at: [0, 0, 0], turn: 0, params: {} };
      const saved = await app.inject({
        method: 'POST',
        url: `/api/maps/${map}/changes`,
        payload: { baseVersion: body.version, items: [{ in: 'entities', id: 'after', item: light }] },
      });
      expect(saved.statusCode).toBe(200);
      await app.close();
      rmSync(dataDir!, { recursive: true, force: true });
    }
  } finally {
    child.kill('SIGKILL');
  }
  expect(cuts).toBe(CUTS);
  expect(last).toBeGreaterThan(CUTS);
  rmSync(dirname(folder), { recursive: true, force: true });
}, 900_000);
