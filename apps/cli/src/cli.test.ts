import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import {
  allFaces,
  changeEntity,
  emptyMap,
  call,
  paintFaces,
  parseMap,
  lightOnVertices,
  partKey,
  placeProps,
  readLevel,
  removePicked,
  writeMap,
  writeScript,
  type Call,
  type CommandArgs,
  type BuildReport,
  type ProbeAnswer,
} from '@yesca/core';
import { propFacts } from '@yesca/stock';
import { runDraw, type DrawOptions } from './draw.ts';
import { Unusable } from './input.ts';
import { runPropsCheck } from './props.ts';

/** What a user starts; where a fresh build is said to lie, the same made into one file, for it starts much sooner. */
const bin = fileURLToPath(new URL(process.env.YESCA_BUILT ? '../dist/main.js' : '../bin/yesca.mjs', import.meta.url));
const demo = fileURLToPath(new URL('../../../packages/stock/assets/maps/first-room.yesca.json', import.meta.url));
const folder = mkdtempSync(join(tmpdir(), 'yesca-cli-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const yesca = (...args: string[]) => {
  const { status, stdout, stderr } = spawnSync(process.execPath, [bin, ...args], {
    encoding: 'utf8',
    env: { ...process.env, NODE_OPTIONS: '' },
  });
  return { status, stdout, stderr };
};
const file = (name: string, text: string): string => {
  writeFileSync(join(folder, name), text);
  return join(folder, name);
};

const fixCall = (finding: CommandArgs<'finding.fix'>['finding']): Call => call('finding.fix', { finding });

test('build writes the level and its report, the same bytes each time', () => {
  const out = join(folder, 'out');
  expect(yesca('build', demo, '--preset', 'sketch', '--out', out).status).toBe(0);
  const bytes = readFileSync(join(out, 'level.yescalevel'));
  expect(readLevel(bytes).meta.name).toBe('First Room');
  const report = JSON.parse(readFileSync(join(out, 'report.json'), 'utf8')) as BuildReport;
  expect(report).toMatchObject({ map: 'First Room', sealed: true, leak: null });
  yesca('build', demo, '--preset', 'sketch', '--out', join(folder, 'again'));
  expect(readFileSync(join(folder, 'again/level.yescalevel')).equals(bytes)).toBe(true);
  // Props that are lit at their vertices: of those that ship these are known here too.
  const doc = parseMap(readFileSync(demo, 'utf8'));
  const spawn = [...doc.entities.values()].find((e) => e.kind.includes('spawn'))!;
  const { doc: with_, made } = placeProps(doc, [{ model: 'crate', at: spawn.at }], propFacts);
  const lit = changeEntity(with_, made.entities![0]!, { params: { takes: 'vertices' } });
  const path = file('lit.yesca.json', writeMap(lit));
  expect(yesca('build', path, '--preset', 'sketch', '--out', out)).toMatchObject({ status: 0, stderr: '' });
  const level = readLevel(readFileSync(join(out, 'level.yescalevel')));
  const k = level.meta.props.indexOf(made.entities![0]!);
  expect(lightOnVertices(level, k, new Map())!.length).toBeGreaterThan(60);
}, 60_000);

test('a leak is a problem: exit 1, named by check and build, with the level still written', () => {
  const doc = parseMap(readFileSync(demo, 'utf8'));
  const wall = [...doc.brushes.values()].find((b) => b.room && partKey(b.room.part) === 'wall:1:0')!;
  const path = file('leaky.yesca.json', writeMap(removePicked(doc, { brushes: new Set([wall.id]) })));
  const checked = yesca('check', path, '--json');
  expect(checked.status).toBe(1);
  expect((JSON.parse(checked.stdout) as { code: string }[])[0]!.code).toBe('check.leak');
  const out = join(folder, 'leaky');
  expect(yesca('build', path, '--preset', 'sketch', '--out', out).status).toBe(1);
  expect(existsSync(join(out, 'level.yescalevel'))).toBe(true);
}, 60_000);

test('edit does commands to a map, checks and fixes included; a refused one writes nothing', () => {
  const out = join(folder, 'edited.yesca.json');
  const crate = call('brush.draw', {
    shape: { kind: 'box', box: { min: [0, 0, 0], max: [64, 64, 64] }, params: {} },
    material: 'oak-plank',
    role: 'detail',
  });
  const script = file(
    'script.json',
    writeScript([call('map.rename', { name: 'Edited' }), { ...crate, seed: 'a' }, { ...crate, seed: 'a' }]),
  );
  expect(yesca('edit', demo, '--script', script, '--out', out)).toMatchObject({
    status: 0,
    stdout: '3 commands done.\n',
  });
  const before = parseMap(readFileSync(demo, 'utf8'));
  const after = parseMap(readFileSync(out, 'utf8'));
  expect([after.name, after.brushes.size]).toEqual(['Edited', before.brushes.size + 2]);
  // Two crates in one place are found, and what was found is what the fix takes.
  const [problem] = JSON.parse(yesca('check', out, '--json').stdout) as Parameters<typeof fixCall>[0][];
  const fix = file('fix.json', writeScript([fixCall(problem!)]));
  expect(yesca('edit', out, '--script', fix, '--out', out).status).toBe(0);
  expect(yesca('check', out).status).toBe(0);
  const wrong = file(
    'wrong.json',
    writeScript([call('map.rename', { name: 'x' }), call('pick.ungroup', { groups: [1] as unknown as string[] })]),
  );
  const refused = yesca('edit', demo, '--script', wrong, '--out', join(folder, 'never.json'));
  expect(refused).toMatchObject({ status: 2, stderr: expect.stringContaining('Command 2, pick.ungroup') as string });
  expect(existsSync(join(folder, 'never.json'))).toBe(false);
  expect(yesca('edit', demo, '--script', demo, '--out', out)).toMatchObject({
    status: 2,
    stderr: expect.stringContaining('script.notCommands') as string,
  });
}, 60_000);

test('check finds nothing in the demo; probe answers for its points', () => {
  expect(yesca('check', demo)).toMatchObject({ status: 0 });
  const points = file('points.json', '[{"at":[0,-100,0],"normal":[0,0,1]},{"at":[-328,0,100]},{"at":[9999,0,0]}]');
  const probed = yesca('probe', demo, '--points', points, '--json');
  expect(probed.status).toBe(0);
  const answers = JSON.parse(probed.stdout) as ProbeAnswer[];
  expect(answers.map((a) => a.inside)).toEqual(['open', 'solid', 'void']);
  expect(answers[0]!.sees).toContain(answers[0]!.cell);
  expect(answers[0]!.illuminance!.every((c) => c > 0)).toBe(true);
}, 60_000);

test('check knows the materials that ship, and says what a build says in the same words', () => {
  const doc = parseMap(readFileSync(demo, 'utf8'));
  const brush = [...doc.brushes.values()][0]!;
  const odd = paintFaces(doc, allFaces(doc, [brush.id]), 'no-such-stuff');
  const checked = yesca('check', file('odd.yesca.json', writeMap(odd)), '--json');
  expect((JSON.parse(checked.stdout) as { code: string }[]).map((p) => p.code)).toContain('check.missingMaterial');
  // Nothing that shines, nor any lamp glass.
  const bare = removePicked(doc, { entities: new Set(doc.entities.keys()) });
  const glass = [...bare.brushes.values()].filter((b) => b.faces.some((f) => f.material.startsWith('lamp-')));
  const dark = paintFaces(
    bare,
    allFaces(
      bare,
      glass.map((b) => b.id),
    ),
    'black-iron',
  );
  const path = file('dark.yesca.json', writeMap(dark));
  const texts = (JSON.parse(yesca('check', path, '--json').stdout) as { text: string }[]).map((p) => p.text);
  const built = yesca('build', path, '--preset', 'sketch', '--out', join(folder, 'dark'));
  expect(texts.length).toBeGreaterThan(1);
  for (const text of texts) expect(built.stdout).toContain(text);
}, 60_000);

test.each([
  ['a file that is not there', () => ['check', join(folder, 'nowhere.json')], 'nowhere.json'],
  ['a file that is cut off', () => ['check', file('cut.json', readFileSync(demo, 'utf8').slice(0, 700))], 'line'],
  ['points that are no points', () => ['probe', demo, '--points', file('bad.json', '[{"at":[1,2]}]')], 'point 0'],
  ['an unknown preset', () => ['build', demo, '--preset', 'perfect', '--out', folder], 'sketch'],
  ['an unknown command', () => ['polish', demo], 'unknown command'],
])('%s is unusable input: exit 2 and a sentence', (_, args, hint) => {
  const { status, stderr } = yesca(...args());
  expect(status).toBe(2);
  expect(stderr).toContain(hint);
  expect(stderr).not.toMatch(/^\s+at /m);
});

test('props check tells what of a model would be imported, and why not: exit 1; what is no file is unusable', async () => {
  const prop = (name: string) =>
    fileURLToPath(new URL(`../../../packages/stock/assets/props/${name}.glb`, import.meta.url));
  const told = yesca('props', 'check', prop('lantern'), '--scale', '2');
  expect([told.status, told.stderr]).toEqual([0, '']);
  expect(told.stdout).toMatch(/^Lantern: 52 × 52 × 78 cm, 92 triangles, .* kB\n {2}collides as .*\n {2}scale 2\n$/);
  const bad = file('bad.glb', 'no model');
  const both = yesca('props', 'check', prop('crate'), bad, '--json');
  expect(both.status).toBe(1);
  const [crate, refused] = JSON.parse(both.stdout) as {
    imports: boolean;
    code?: string;
    prop?: { triangles: number };
  }[];
  expect([crate!.imports, crate!.prop!.triangles, refused!.imports, refused!.code]).toEqual([
    true,
    156,
    false,
    'model.format',
  ]);
  await expect(runPropsCheck([join(folder, 'nothing.glb')], {})).rejects.toThrow(Unusable);
  await expect(runPropsCheck([bad], { scale: 'big' })).rejects.toThrow(/--scale must be a number/);
});

test('draw writes a plan or a section true to scale, and says of wrong wishes what to do', () => {
  const out = join(folder, 'plan.svg');
  const plan = yesca('draw', demo, '--out', out, '--scale', '50');
  expect(plan).toMatchObject({ status: 0, stderr: '' });
  const svg = readFileSync(out, 'utf8');
  const [, width, height] = /width="([\d.]+)mm" height="([\d.]+)mm"/.exec(svg)!;
  expect(plan.stdout).toBe(`${out}: ${Math.ceil(Number(width))} × ${Math.ceil(Number(height))} mm.\n`);
  expect(svg).toContain('<title>First Room: Plan, cut at ');
  // A minus in front of numbers makes no option of them.
  const section = yesca(
    'draw',
    demo,
    '--out',
    out,
    '--section',
    '-10,20,90',
    '--depth',
    '400',
    '--grid',
    '--no-things',
  );
  expect(section.status).toBe(0);
  expect(readFileSync(out, 'utf8')).toMatch(/Section, looking north.*id="grid"/s);
  expect(readFileSync(out, 'utf8')).not.toContain('<g transform=');
  const none = join(folder, 'never.svg');
  const usual = { out: none, scale: '100', things: true, names: true };
  const wrong = (wishes: Partial<DrawOptions>, message: RegExp, map = demo) => {
    const told = expect.objectContaining({ message: expect.stringMatching(message) as string });
    expect(() => runDraw(map, { ...usual, ...wishes })).toThrow(told);
    expect(() => runDraw(map, { ...usual, ...wishes })).toThrow(Unusable);
    expect(existsSync(none)).toBe(false);
  };
  wrong({ scale: '2' }, /^--scale: Scale must be at least 5\.$/);
  wrong({ section: '1,2' }, /^--section must be 3 numbers with commas between: 1,2 is not\.$/);
  wrong({ section: '1,2,' }, /^--section must be 3 numbers/);
  wrong({ height: 'low' }, /^--height must be a number: low is not\.$/);
  wrong({ height: '1', section: '1,2,3' }, /^A drawing is a plan or a section\./);
  wrong({ depth: '100' }, /^--depth belongs to a section\./);
  wrong({ section: '1,2,3', depth: '0' }, /^--depth must be more than 0 cm\.$/);
  wrong({ out: join(folder, 'none', 'x.svg') }, /cannot be written \(ENOENT\)/);
  wrong({}, /\(drawing\.empty\) Nothing was written\.$/, file('empty.yesca.json', writeMap(emptyMap('Empty'))));
});
