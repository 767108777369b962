import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { nanoid } from 'nanoid';
import type { Preset } from '@yesca/core';
import type { Context } from './context.ts';
import { projects } from './db/schema.ts';
import { createMap } from './features/maps.ts';

/** Puts the demo project on an empty Shelf, and builds its maps unless there is no preset. */
export async function seedDemo(context: Context, stockDir: string, preset: Preset | null): Promise<void> {
  const { db, queue } = context;
  if ((await db.select({ id: projects.id }).from(projects).limit(1)).length > 0) return;
  const projectId = nanoid();
  await db.insert(projects).values({ id: projectId, name: 'Halyard' });
  for (const file of ['halyard-tidemill', 'first-room', 'ropewalk', 'ropewalk-finished']) {
    const row = await createMap(context, projectId, readFileSync(join(stockDir, 'maps', `${file}.yesca.json`), 'utf8'));
    if (preset) await queue.start(row.id, preset, row.document);
  }
}
