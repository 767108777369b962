/** `npm run bench`: our figures with a peer's beside them, in one process. */
import { ensureBrowser, ensureBuilt, ensureDependencies, run } from './ensure.mjs';

ensureDependencies();
await ensureBrowser();
await ensureBuilt();
run('npx', ['tsx', 'bench/main.ts', ...process.argv.slice(2)]);
