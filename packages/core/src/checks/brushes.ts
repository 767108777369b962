import { brushBounds, findFlaw, hullOf, solidOf, type Brush } from '../brush/index.ts';
import { removePicked } from '../edit/index.ts';
import { boxCenter, boxSize, type Vec3 } from '../math/index.ts';
import { redress } from '../surface/index.ts';
import type { Finding, Rule } from './types.ts';

/** Thinner than this (cm) in every direction a brush can hardly be seen or picked. */
const TINY = 2;

export const tinyBrush: Rule = {
  code: 'check.tinyBrush',
  about: 'brushes',
  find: (doc) =>
    [...doc.brushes.values()].flatMap((b): Finding[] => {
      const broken = findFlaw(solidOf(b));
      if (!broken && Math.max(...boxSize(brushBounds(b))) >= TINY) return [];
      const text = broken
        ? `A brush is not valid: ${broken.message}`
        : `A brush is smaller than ${TINY} cm in every direction. Remove it or make it larger.`;
      return [
        {
          id: `check.tinyBrush ${b.id}`,
          code: 'check.tinyBrush',
          severity: 'warning',
          text,
          at: boxCenter(brushBounds(b)),
          brushes: [b.id],
        },
      ];
    }),
  fixes: [
    { label: 'Remove the brush', apply: (doc, problem) => removePicked(doc, { brushes: new Set(problem.brushes) }) },
  ],
};

const onGrid = (v: Vec3, step: number): boolean =>
  v.every((c) => Math.abs(c / step - Math.round(c / step)) * step < 1e-9);
const snap = (v: Vec3, step: number): Vec3 => [
  Math.round(v[0] / step) * step,
  Math.round(v[1] / step) * step,
  Math.round(v[2] / step) * step,
];

/** Corners of shapes with slopes or many sides cannot all lie on a grid; only shapes of axis planes are expected to. */
const isBoxy = (b: Brush): boolean =>
  b.vertices.length === 8 &&
  b.faces.length === 6 &&
  b.vertices.every((v) => [0, 1, 2].every((i) => v[i] === brushBounds(b).min[i] || v[i] === brushBounds(b).max[i]));

export const offGrid: Rule = {
  code: 'check.offGrid',
  about: 'brushes',
  find: (doc) =>
    [...doc.brushes.values()].flatMap((b): Finding[] => {
      if (b.room || !isBoxy(b) || b.vertices.every((v) => onGrid(v, 1))) return [];
      return [
        {
          id: `check.offGrid ${b.id}`,
          code: 'check.offGrid',
          severity: 'warning',
          text: 'A brush has corners between whole centimetres. Cracks may show beside it.',
          at: boxCenter(brushBounds(b)),
          brushes: [b.id],
        },
      ];
    }),
  fixes: [
    {
      label: 'Move its corners to whole centimetres',
      apply: (doc, problem) => {
        const brushes = new Map(doc.brushes);
        for (const id of problem.brushes ?? []) {
          const b = brushes.get(id);
          if (b) brushes.set(id, redress(hullOf(b.vertices.map((v) => snap(v, 1))), b));
        }
        return { ...doc, brushes };
      },
    },
  ],
};
