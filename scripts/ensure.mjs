/** What every command needs first: dependencies installed as the lock file says, and for tests a browser. */
import { spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = fileURLToPath(new URL('..', import.meta.url));
const cache = join(root, 'node_modules', '.cache', 'yesca');

/** Runs a command with its output shown; ends the process when it fails. */
export function run(command, args, env = {}) {
  const { status } = spawnSync(command, args, { cwd: root, stdio: 'inherit', env: { ...process.env, ...env } });
  if (status !== 0) process.exit(status ?? 1);
}

/** Runs a command while others go on; resolves to whether it did its work. */
export function beside(command, args, stdio = 'inherit') {
  const child = spawn(command, args, { cwd: root, stdio });
  return new Promise((done) => {
    child.once('error', () => done(false));
    child.once('exit', (code) => done(code === 0));
  });
}

export function ensureDependencies() {
  const [major] = process.versions.node.split('.').map(Number);
  if (major < 20) {
    console.error(`Yesca needs Node 20 or newer; this is ${process.version}.`);
    process.exit(1);
  }
  const lock = createHash('sha256')
    .update(readFileSync(join(root, 'package-lock.json')))
    .digest('hex');
  if (remembered('install') === lock) return;
  run('npm', ['ci', '--no-audit', '--no-fund']);
  remember('install', lock);
}

/** Resolves once there is a browser; it is installed beside whatever else is done. */
export async function ensureBrowser() {
  const places = [process.env.CHROMIUM, '/usr/bin/chromium', '/usr/bin/chromium-browser', '/usr/bin/google-chrome'];
  if (places.some((p) => p && existsSync(p))) return;
  if (process.getuid?.() === 0 && existsSync('/usr/bin/apt-get')) {
    console.log('Installing Debian’s chromium for the tests in the real interface …');
    const line = 'apt-get update -qq && apt-get install -y -qq chromium libegl1 libegl-mesa0 libgl1-mesa-dri';
    if (await beside('sh', ['-c', line], ['ignore', 'ignore', 'inherit'])) return;
  }
  console.error(
    'Chromium is missing. Install Debian’s package chromium (as root: apt-get install chromium), or set CHROMIUM to its path.',
  );
  process.exit(1);
}

/** Builds the web application, the server and the command line unless their sources are those of the last build. */
export async function ensureBuilt() {
  const stamp = fingerprint(['packages', 'apps', 'package-lock.json', 'tsconfig.base.json']);
  if (
    remembered('build') === stamp &&
    ['apps/web/dist/index.html', 'apps/server/dist/main.js', 'apps/cli/dist/main.js'].every((f) =>
      existsSync(join(root, f)),
    )
  )
    return;
  if (!(await beside('npm', ['run', '--silent', 'build']))) process.exit(1);
  remember('build', stamp);
}

const remembered = (name) => (existsSync(join(cache, name)) ? readFileSync(join(cache, name), 'utf8') : null);
function remember(name, value) {
  mkdirSync(cache, { recursive: true });
  writeFileSync(join(cache, name), value);
}

/** Names the state of some files and folders by their paths, sizes and times. */
function fingerprint(paths) {
  const hash = createHash('sha256');
  const visit = (path) => {
    const info = statSync(path);
    if (!info.isDirectory()) return void hash.update(`${path} ${info.size} ${info.mtimeMs}\n`);
    for (const name of readdirSync(path).sort())
      if (!['node_modules', 'dist', 'data', '.cache'].includes(name)) visit(join(path, name));
  };
  for (const p of paths) visit(join(root, p));
  return hash.digest('hex');
}
