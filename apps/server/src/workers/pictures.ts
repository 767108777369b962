import type { DecodeTask } from '../materials/outcomes.ts';
import { decodeUpload } from '../materials/upload.ts';

/** More memory than this (bytes) a decoding process must not take; it ends itself before the machine suffers. */
const MEMORY = 560 * 1024 * 1024;

const watch = setInterval(() => process.memoryUsage().rss > MEMORY && process.exit(137), 50);
watch.unref();
process.once(
  'message',
  (task: DecodeTask) =>
    void decodeUpload(task).then(
      () => process.exit(0),
      () => process.exit(1),
    ),
);
// Whoever asked is gone.
process.once('disconnect', () => process.exit(1));
