import { readModels, type ModelTask } from '../props/read-models.ts';
import { endsItself } from './memory.ts';

endsItself(960 * 1024 * 1024);
process.once(
  'message',
  (task: ModelTask) =>
    void readModels(task).then(
      () => process.exit(0),
      () => process.exit(1),
    ),
);
// Whoever asked is gone.
process.once('disconnect', () => process.exit(1));
