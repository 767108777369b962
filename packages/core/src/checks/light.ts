import type { Rule } from './types.ts';

export const noLight: Rule = {
  code: 'check.noLight',
  find: (doc) =>
    doc.brushes.size === 0 || [...doc.entities.values()].some((e) => e.kind === 'pointLight' || e.kind === 'sun')
      ? []
      : [
          {
            id: 'check.noLight',
            rule: 'check.noLight',
            severity: 'warning',
            text: 'There is no light: only the even ambient light will show. Place a point light or a sun.',
          },
        ],
};
