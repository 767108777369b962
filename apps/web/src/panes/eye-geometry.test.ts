/** @jest-environment jsdom */
import { TEMPLATES } from '@yesca/stock';
import { batchBrushes, edgeGeometry, GHOST_BATCH, SKY_BATCH } from './eye-geometry.ts';

const doc = TEMPLATES.find((t) => t.key === 'two-rooms')!.make('Two');

describe('the Eye’s meshes', () => {
  test('hold every face once, by material, with sky and unseen apart', () => {
    const brushes = [...doc.brushes.values()].map((b, i) =>
      i === 0
        ? {
            ...b,
            faces: b.faces.map((f, k) =>
              k === 0
                ? { ...f, material: 'hidden', show: 'sky' as const }
                : k === 1
                  ? { ...f, material: 'hidden', show: 'unseen' as const }
                  : f,
            ),
          }
        : i === 1
          ? { ...b, role: 'clip' as const }
          : b,
    );
    const asked = new Set<string>();
    const batches = batchBrushes(brushes, (name) => (asked.add(name), { key: 'page', size: [512, 512], layer: 0 }));
    const triangles = batches.reduce((n, b) => n + b.geometry.index!.count / 3, 0);
    expect(triangles).toBe(brushes.reduce((n, b) => n + b.faces.reduce((m, f) => m + f.loop.length - 2, 0), 0));
    expect(batches.find((b) => b.key === SKY_BATCH)!.geometry.index!.count).toBe(6);
    expect(batches.find((b) => b.key === GHOST_BATCH)!.geometry.index!.count / 6).toBe(1 + 6);
    // What does not show need not be loaded.
    expect([...asked]).toContain('limewash');
    expect([...asked]).not.toContain('hidden');
  });
  test('outline each edge once', () => {
    const box = [...doc.brushes.values()].find((b) => b.vertices.length === 8)!;
    expect(edgeGeometry([box]).getAttribute('position').count).toBe(24);
  });
});
