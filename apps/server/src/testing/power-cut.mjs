/**
 * A file layer for tests, put under a process with `--import`: it remembers what of a folder's files was really synced, and
 * what a power cut would therefore leave. `globalThis.powerCut(folder)` writes that into another folder, at any moment.
 *
 * What holds after a cut: the content that a file had when it was last synced, under the name it had then; a rename or removal
 * only once its folder was synced. Everything else is gone.
 */
import fs from 'node:fs';
import path from 'node:path';
import { syncBuiltinESMExports } from 'node:module';

const root = path.resolve(process.env.POWER_CUT_ROOT);
const mine = (p) => typeof p === 'string' && path.resolve(p).startsWith(root);
/** Durable files by path: their content. */
const durable = new Map();
/** Names that changed in a folder since it was synced: path to what will be there (null: nothing). */
const names = new Map();
const open = new Map();
const real = { ...fs };

const scan = (folder) => {
  for (const entry of real.readdirSync(folder, { withFileTypes: true })) {
    const p = path.join(folder, entry.name);
    if (entry.isDirectory()) scan(p);
    else if (entry.isFile()) durable.set(p, real.readFileSync(p));
  }
};
if (real.existsSync(root)) scan(root);

const synced = (p) => {
  if (!mine(p)) return;
  if (real.statSync(p).isDirectory()) {
    for (const [name, was] of [...names]) {
      if (path.dirname(name) !== p) continue;
      if (was === null) durable.delete(name);
      else if (durable.has(was)) {
        durable.set(name, durable.get(was));
        durable.delete(was);
      }
      names.delete(name);
    }
  } else durable.set(p, real.readFileSync(p));
};
const opened = (fd, p) => {
  if (mine(String(p))) open.set(fd, path.resolve(String(p)));
  return fd;
};
const renamed = (from, to) => {
  if (!mine(String(to))) return;
  const [a, b] = [path.resolve(String(from)), path.resolve(String(to))];
  // The old name still stands for the content until the folder is synced.
  names.set(b, names.get(a) ?? a);
  for (const [fd, p] of open) if (p === a) open.set(fd, b);
};
const removed = (p) => mine(String(p)) && names.set(path.resolve(String(p)), null);

fs.openSync = (p, ...rest) => opened(real.openSync(p, ...rest), p);
fs.closeSync = (fd) => (open.delete(fd), real.closeSync(fd));
fs.fsyncSync = (fd) => {
  real.fsyncSync(fd);
  if (open.has(fd)) synced(open.get(fd));
};
fs.renameSync = (a, b) => {
  real.renameSync(a, b);
  renamed(a, b);
};
fs.unlinkSync = (p) => {
  real.unlinkSync(p);
  removed(p);
};
const { open: openAsync, rename, unlink } = fs.promises;
fs.promises.open = async (p, ...rest) => {
  const handle = await openAsync(p, ...rest);
  if (mine(String(p))) {
    const { sync } = handle;
    handle.sync = async () => {
      await sync.call(handle);
      synced(path.resolve(String(p)));
    };
  }
  return handle;
};
fs.promises.rename = async (a, b) => {
  await rename(a, b);
  renamed(a, b);
};
fs.promises.unlink = async (p) => {
  await unlink(p);
  removed(p);
};
syncBuiltinESMExports();

const folders = new Set();
const { mkdirSync } = fs;
fs.mkdirSync = (p, options) => {
  const made = mkdirSync(p, options);
  if (mine(String(p))) folders.add(path.resolve(String(p)));
  return made;
};
const walk = (folder) => {
  folders.add(folder);
  for (const entry of real.readdirSync(folder, { withFileTypes: true }))
    if (entry.isDirectory()) walk(path.join(folder, entry.name));
};
if (real.existsSync(root)) walk(root);
syncBuiltinESMExports();

globalThis.powerCut = (to) => {
  const there = (p) => path.join(to, path.relative(root, p));
  // Folders that were there stay, empty: the database expects some.
  for (const folder of folders) real.mkdirSync(there(folder), { recursive: true });
  for (const [p, data] of durable) {
    real.mkdirSync(path.dirname(there(p)), { recursive: true });
    real.writeFileSync(there(p), data);
  }
};
