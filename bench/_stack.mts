import { PNG } from 'pngjs';
import { readFileSync, writeFileSync } from 'node:fs';
const [out, ...ins] = process.argv.slice(2);
const ims = ins.map((f) => PNG.sync.read(readFileSync(f)));
const w = Math.max(...ims.map((i) => i.width)),
  h = ims.reduce((n, i) => n + i.height, 0);
const o = new PNG({ width: w, height: h });
let y = 0;
for (const i of ims) {
  PNG.bitblt(i, o, 0, 0, i.width, i.height, 0, y);
  y += i.height;
}
writeFileSync(out!, PNG.sync.write(o));
