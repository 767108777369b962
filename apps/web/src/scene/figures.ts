import { BoxGeometry, CylinderGeometry, Group, Mesh, MeshBasicMaterial, type BufferGeometry } from 'three';
import { entityKind, type Entity, type FigureBody, type Pose } from '@yesca/core';

/** What stands in a map in play besides its brushes: stands with what lies on them. */
export interface Figures {
  readonly group: Group;
  /** Which things have a figure. */
  readonly has: (thing: string) => boolean;
  /** Puts a thing's figure where it is, and shows or hides what may be taken off it. */
  readonly show: (thing: string, pose: Pose, away: boolean) => void;
  readonly dispose: () => void;
}

const SIDES = 12;

function bodyGeometry({ shape, size: [x, y, z] }: FigureBody): BufferGeometry {
  if (shape === 'box') return new BoxGeometry(x, y, z);
  // Three's cylinders stand along their second axis.
  const round = new CylinderGeometry(0.5, 0.5, z, SIDES);
  round.rotateX(Math.PI / 2);
  round.scale(x, y, 1);
  return round;
}

/** A colour a little darker on bodies lower down: there is no light to tell them apart. */
const shadeOf = (k: number): number => 0.82 + 0.09 * k;

export function makeFigures(entities: readonly Entity[]): Figures {
  const group = new Group();
  const made = new Map<string, { group: Group; taken: Mesh[] }>();
  for (const e of entities) {
    const bodies = entityKind(e.kind)?.figure(e) ?? [];
    if (bodies.length === 0) continue;
    const figure = new Group();
    const taken: Mesh[] = [];
    const { at } = e;
    bodies.forEach((body, k) => {
      const material = new MeshBasicMaterial({ color: body.color });
      material.color.multiplyScalar(shadeOf(k));
      const mesh = new Mesh(bodyGeometry(body), material);
      mesh.position.set(at[0] + body.at[0], at[1] + body.at[1], at[2] + body.at[2]);
      figure.add(mesh);
      if (body.taken) taken.push(mesh);
    });
    figure.matrixAutoUpdate = false;
    made.set(e.id, { group: figure, taken });
    group.add(figure);
  }
  return {
    group,
    has: (thing) => made.has(thing),
    show: (thing, p, away) => {
      const figure = made.get(thing);
      if (!figure) return;
      figure.group.matrix.set(p[0], p[1], p[2], p[3], p[4], p[5], p[6], p[7], p[8], p[9], p[10], p[11], 0, 0, 0, 1);
      figure.group.matrixWorldNeedsUpdate = true;
      for (const mesh of figure.taken) mesh.visible = !away;
    },
    dispose: () =>
      group.traverse((o) => {
        if (!(o instanceof Mesh)) return;
        (o.geometry as BufferGeometry).dispose();
        (o.material as MeshBasicMaterial).dispose();
      }),
  };
}
