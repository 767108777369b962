import { SHAPE_KINDS } from '@yesca/core';
import { chooseTool, TOOLS } from '../../tools/index.ts';
import { useDrawOptions } from '../../tools/draw.ts';
import { usePickOptions } from '../../tools/pick/options.ts';
import { useReshapeOptions } from '../../tools/reshape.ts';
import type { Command } from '../command.ts';

/** The next shape to draw. */
function nextShape(): void {
  const { shape } = useDrawOptions.getState();
  chooseTool('draw');
  useDrawOptions.setState({ shape: SHAPE_KINDS[(SHAPE_KINDS.indexOf(shape) + 1) % SHAPE_KINDS.length]! });
}

/** The tools, and what is set of them by a key. */
export const TOOLS_COMMANDS: readonly Command[] = [
  ...TOOLS.map(({ name, label, key }): Command => ({
    id: `tool.${name}`,
    group: 'Tools',
    label,
    keys: key,
    run: () => chooseTool(name),
  })),
  { id: 'tool.shape', group: 'Tools', label: 'Draw: next shape', keys: 'shift+b', run: nextShape },
  {
    id: 'tool.handles',
    group: 'Tools',
    label: 'Reshape: vertices, edges or faces',
    keys: 'shift+e',
    run: () => {
      const order = ['vertices', 'edges', 'faces'] as const;
      useReshapeOptions.setState({ handles: order[(order.indexOf(useReshapeOptions.getState().handles) + 1) % 3]! });
      chooseTool('reshape');
    },
  },
  {
    id: 'tool.resize',
    group: 'Tools',
    label: 'Resize: scale shape or keep slopes',
    keys: 'shift+v',
    run: () => usePickOptions.setState({ resize: usePickOptions.getState().resize === 'scale' ? 'slopes' : 'scale' }),
  },

  {
    id: 'tool.axes',
    group: 'Tools',
    label: 'Transform box: world or own axes',
    keys: 'x',
    run: () => usePickOptions.setState({ axes: usePickOptions.getState().axes === 'world' ? 'own' : 'world' }),
  },
];
