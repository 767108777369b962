/** `npm run bench`: our figures with a peer's beside them, in one process. */
import { ensureDependencies, run } from './ensure.mjs';

ensureDependencies();
run('npx', ['tsx', 'bench/main.ts', ...process.argv.slice(2)]);
