import { readFileSync } from 'node:fs';
import { buildLevel, buildLevelOn, parseMap } from '@yesca/core';
import { THREADS } from './threads.ts';

test('threads of the machine give the very bytes that one gives, and end at once when told to', async () => {
  const path = new URL('../../../../packages/stock/assets/maps/first-room.yesca.json', import.meta.url);
  const doc = parseMap(readFileSync(path, 'utf8'));
  let opened = 0;
  const threads = { open: () => (opened++, THREADS.open()), count: 2 };
  const here = buildLevel(doc, 'final').bytes;
  const there = (await buildLevelOn(threads, doc, 'final')).bytes;
  expect(Buffer.compare(here, there)).toBe(0);
  // Two for each row of shards that is long enough.
  expect(opened).toBeGreaterThanOrEqual(4);
  expect(opened % 2).toBe(0);
  const cancel = new AbortController();
  const running = buildLevelOn(threads, doc, 'final', {
    signal: cancel.signal,
    progress: (stage, done) => stage === 'lighting' && done > 0 && cancel.abort(),
  });
  await expect(running).rejects.toMatchObject({ code: 'build.cancelled' });
}, 60_000);
