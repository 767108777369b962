/** `npm run dev`: server and web application from their sources, with reload. */
import { spawn } from 'node:child_process';
import { ensureDependencies, root } from './ensure.mjs';

ensureDependencies();
const start = (workspace) =>
  spawn('npm', ['run', '--silent', 'dev', '-w', workspace], {
    cwd: root,
    stdio: 'inherit',
    // The pages come from the development server of the interface, under its own port.
    env: { ...process.env, YESCA_DEMO: '1', YESCA_ORIGINS: 'http://127.0.0.1:4171,http://localhost:4171' },
  });
const parts = [start('@yesca/server'), start('@yesca/web')];
const stop = (code) => {
  for (const p of parts) p.kill();
  process.exit(code);
};
for (const p of parts) p.on('exit', (code) => stop(code ?? 0));
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => stop(0));
console.log('The workshop will be at http://127.0.0.1:4171');
