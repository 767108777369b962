import type { Draft } from '../drafting.ts';

/** The tower at the quay's end: a stair turning up round an open eye to a lookout with a window over the quay. */
export function stairTower(d: Draft): void {
  d.shape(
    'turningStair',
    [1684, -520, 0],
    [1944, -216, 384],
    { rises: 'east', turns: 'left', steps: 18, angle: 225, innerRadius: 48, solid: true },
    'slate',
    'Tower stair',
  );
  // The landing lies over the door and ends at the last step.
  d.shape('polygon', [1640, -448, 368], [1758, -260, 384], {}, 'oak-plank', 'Lookout', [[1640, -448], [1752, -448], [1756, -334], [1683, -261], [1640, -286]]); // prettier-ignore
  // The lookout's window goes through both halves of the wall above the door.
  const window = d.box([1590, -416, 432], [1642, -320, 560], 'limewash', 'Window');
  d.subtract([window.id]);
  d.thing('pointLight', [1792, -368, 240], 'Tower lamp', 0, { candela: 120, color: '#ffe4bc' });
  d.thing('pointLight', [1792, -368, 560], 'Lookout lamp', 0, { candela: 140, color: '#ffe4bc' });
}
