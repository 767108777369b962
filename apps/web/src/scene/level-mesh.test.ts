/** @jest-environment jsdom */
import {
  buildLevel,
  changeEntity,
  levelCell,
  LUX_SCALE,
  placeEntity,
  shines,
  unpackRgb9e5,
  type Level,
} from '@yesca/core';
import { TEMPLATES } from '@yesca/stock';
import { DataArrayTexture, Vector4, type DataTexture, type ShaderMaterial, type Vector2 } from 'three';
import { lookOf, type BatchedLook } from './looks.ts';
import type { PicturePages } from './picture-pages.ts';
import { makeLevelMesh } from './level-mesh.ts';

const doc = TEMPLATES.find((t) => t.key === 'two-rooms')!.make('Two');
const { level } = buildLevel(placeEntity(doc, 'spawn', [-300, 50, 0]), 'review');
/** Pages without a graphics card: all materials lie on one. */
const PAGES: PicturePages = {
  placeOf: () => ({ page: 0, layer: 0 }),
  plain: () => ({ page: 0, layer: 0 }),
  texture: () => new DataArrayTexture(null, 1, 1, 1),
  standIns: () => [new Vector4()],
  size: () => [256, 128],
  loadRelief: () => undefined,
  relief: () => ({ texture: new DataArrayTexture(null, 1, 1, 1), roughness: [1] }),
};
const LOOK = (name: string): BatchedLook => lookOf(PAGES, name, undefined);
const drawnTriangles = (mesh: ReturnType<typeof makeLevelMesh>) =>
  mesh.meshes.reduce((n, m) => n + (m.visible ? m.geometry.drawRange.count / 3 : 0), 0);

test('all surfaces are drawn from a cell that sees all, none twice', () => {
  const mesh = makeLevelMesh(level, PAGES, LOOK);
  expect(mesh.show(-1)).toBe(level.surfaceMaterial.length);
  expect(drawnTriangles(mesh)).toBe(level.index.length / 3);
  mesh.dispose();
});

test('from a cell only the surfaces of cells it may see are drawn', () => {
  const cell = levelCell(level, [-300, 50, 100]);
  // A level in which that cell sees nothing but itself.
  const words = (level.meta.cells + 31) >> 5;
  const alone = Uint32Array.from(level.pvsWords, (_, i) => (i === cell * words + (cell >> 5) ? 1 << (cell & 31) : 0));
  const blind: Level = { ...level, pvsWords: alone };
  const mesh = makeLevelMesh(blind, PAGES, LOOK);
  const own = [...level.surfaceMaterial].filter((_, s) =>
    level.surfaceCell.subarray(level.surfaceCellFirst[s], level.surfaceCellFirst[s + 1]).includes(cell),
  ).length;
  expect(mesh.show(cell)).toBe(own);
  expect(own).toBeLessThan(level.surfaceMaterial.length);
});

test('marked surfaces are drawn, whoever may see them; light is shown as it is told', () => {
  const mesh = makeLevelMesh(level, PAGES, LOOK);
  const marked = Uint8Array.from(level.surfaceMaterial, (_, s) => Number(s % 3 === 0));
  expect(mesh.draw(marked)).toBe(marked.reduce((n, m) => n + m, 0));
  const { uniforms } = mesh.meshes[0]!.material as ShaderMaterial;
  const inPlay = uniforms.exposure!.value as number;
  mesh.expose({ stops: -1, bands: [2, 1600], side: [300, 'left'] });
  expect(uniforms.exposure!.value).toBe(inPlay / 2);
  expect((uniforms.bands!.value as Vector2).toArray()).toEqual([2 / LUX_SCALE, 1600 / LUX_SCALE]);
  expect((uniforms.side!.value as Vector2).toArray()).toEqual([300, 1]);
  mesh.expose({ stops: 0, bands: null, side: null });
  expect([uniforms.exposure!.value, (uniforms.bands!.value as Vector2).y]).toEqual([inPlay, 0]);
  mesh.dispose();
});

test('the light pages hold the level’s light', () => {
  const mesh = makeLevelMesh(level, PAGES, LOOK);
  const { lightPage } = (mesh.meshes[0]!.material as ShaderMaterial).uniforms as { lightPage: { value: DataTexture } };
  const texels = lightPage.value.image.data as unknown as Uint32Array;
  expect(texels).toHaveLength(level.meta.pages[0]![0] * level.meta.pages[0]![1]);
  expect(Math.max(...[...texels].map((t) => unpackRgb9e5(t)[1]))).toBeGreaterThan(0);
});

test('a lamp that is switched changes the pages that it shines on, and they are drawn anew', () => {
  const lamp = [...doc.entities.values()].find(shines)!;
  const off = changeEntity(doc, lamp.id, { params: { lit: false } });
  const { level: dark } = buildLevel(placeEntity(off, 'spawn', [-300, 50, 0]), 'sketch');
  const mesh = makeLevelMesh(dark, PAGES, LOOK);
  const pages = [
    ...new Set(
      mesh.meshes.flatMap((m) => {
        const page = (m.material as ShaderMaterial).uniforms.lightPage?.value as DataTexture | undefined;
        return page ? [page] : [];
      }),
    ),
  ];
  const light = () =>
    pages.map((p) => [...(p.image.data as unknown as Uint32Array)].reduce((n, w) => n + unpackRgb9e5(w)[0], 0));
  const [versions, before] = [pages.map((p) => p.version), light()];
  mesh.shine(new Map([[lamp.id, 1]]));
  expect(pages.map((p) => p.version)).not.toEqual(versions);
  expect(light()[0]).toBeGreaterThan(before[0]! + 1);
  mesh.shine(new Map([[lamp.id, 0]]));
  expect(light()).toEqual(before);
  mesh.dispose();
});
