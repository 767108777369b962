import type { Vec3 } from '@yesca/core';
import { useEditor } from '../state/editor.ts';
import { snapPoint } from './projection.ts';
import { useWork } from '../state/work.ts';

/** The grid step things snap to, or null while snapping is off. */
export const gridStep = (): number | null => (useWork.getState().snap ? useEditor.getState().doc.settings.grid : null);

/** A point on the grid, while snapping is on. */
export const snapHere = (p: Vec3): Vec3 => snapPoint(p, gridStep());
