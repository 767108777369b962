import { options } from '../../state/kept.ts';
import { params } from '@yesca/core';

/** How what is selected is resized. */
export const usePickOptions = options('pick', {
  resize: params.choice(['scale', 'slopes'], 'scale', {
    label: 'Resize',
    help: 'Resize by scaling the shape, or move only the faces on that side and keep slopes — Shift V',
    names: { scale: 'Scale shape', slopes: 'Keep slopes' },
  }),
  axes: params.choice(['world', 'own'], 'world', {
    label: 'Axes',
    help: 'On the Plan the transform box lies in the world’s axes, or in those of the brush itself — X',
    names: { world: 'World', own: 'Own' },
  }),
});
