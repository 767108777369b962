import type { DecodeTask } from '../materials/outcomes.ts';
import { decodeUpload } from '../materials/upload.ts';
import { endsItself } from './memory.ts';

endsItself(560 * 1024 * 1024);
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
