/** `npm run demo`: installs what is missing, builds, and opens the server with the demo maps. */
import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { ensureBuilt, ensureDependencies, root } from './ensure.mjs';

ensureDependencies();
await ensureBuilt();
const server = spawn(process.execPath, [join(root, 'apps/server/dist/main.js')], {
  cwd: root,
  stdio: 'inherit',
  env: { ...process.env, YESCA_DEMO: '1' },
});
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal));
server.on('exit', (code) => process.exit(code ?? 0));
