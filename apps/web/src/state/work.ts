import { params } from '@yesca/core';
import { options } from './kept.ts';

/** How one works, with whatever tool. */
export const useWork = options('work', {
  snap: params.yesNo(true, { label: 'Snap', help: 'Snap to the grid — G' }),
  gridSet: params.choice(['binary', 'decimal'], 'binary', {
    label: 'Grid steps',
    help: 'Grid steps are powers of two, or decimal',
  }),
  angleStep: params.choice(['1', '5', '15', '22.5', '45', '90'], '15', {
    label: 'Angle step',
    help: 'Step of turns by hand; Alt turns freely',
    names: { '1': '1°', '5': '5°', '15': '15°', '22.5': '22.5°', '45': '45°', '90': '90°' },
  }),
  carry: params.yesNo(true, { label: 'Carry', help: 'Textures move along with their brushes' }),
  contents: params.yesNo(true, {
    label: 'Contents',
    help: 'A room that is moved, turned or mirrored takes along what stands in it: lamps, spawns, loose brushes',
  }),
  neighbours: params.yesNo(false, {
    label: 'Neighbours',
    help: 'A room takes along the rooms that it shares walls with, and theirs',
  }),
  caps: params.choice(['brush', 'active'], 'brush', {
    label: 'New faces',
    help: 'What the faces show that a cut or a subtraction makes: what their brush shows most, or the active material',
    names: { brush: 'Faces as the brush', active: 'Active material' },
  }),
});

/** The step of turns by hand, degrees. */
export const angleStep = (): number => Number(useWork.getState().angleStep);
