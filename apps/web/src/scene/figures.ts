import { BoxGeometry, Color, CylinderGeometry, Group, Mesh, ShaderMaterial, Vector3, type BufferGeometry } from 'three';
import {
  entityKind,
  HARMONICS,
  type Entity,
  type FigureBody,
  type MapSettings,
  type Pose,
  type ProbeLight,
} from '@yesca/core';
import { WHITE_LUX } from './level-mesh.ts';
import { harmonicLight, SEEN } from './seen.ts';
import { fogUniforms } from './sky.ts';

/** What stands in a map in play besides its brushes: stands with what lies on them. */
export interface Figures {
  readonly group: Group;
  /** Which things have a figure. */
  readonly has: (thing: string) => boolean;
  /** Puts a thing's figure where it is, and shows or hides what may be taken off it. */
  readonly show: (thing: string, pose: Pose, away: boolean) => void;
  /** Lets a thing's figure be seen by light from every side. */
  readonly light: (thing: string, light: ProbeLight) => void;
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

/**
 * A plain colour in light that comes from every side as nine coefficients say (Ramamoorthi & Hanrahan, An Efficient Representation for
 * Irradiance Environment Maps, 2001), seen as the surfaces of a level are.
 */
const figureMaterial = (color: Color, light: readonly Vector3[], air: Partial<MapSettings>): ShaderMaterial =>
  new ShaderMaterial({
    vertexShader: /* glsl */ `
varying vec3 vNormal;
varying vec3 vSeen;
void main() {
  vNormal = mat3(modelMatrix) * normal;
  vec4 seen = modelViewMatrix * vec4(position, 1.0);
  vSeen = seen.xyz;
  gl_Position = projectionMatrix * seen;
}`,
    fragmentShader: /* glsl */ `
uniform vec3 albedo;
uniform vec3 coefficients[9];
varying vec3 vNormal;
${SEEN}
void main() {
  vec3 n = normalize(vNormal);
  vec3 light = ${harmonicLight((k) => `coefficients[${k}]`)};
  vec3 shown = asSeen(albedo * max(light, vec3(0.0)) / WHITE_LUX);
  gl_FragColor = linearToOutputTexel(vec4(shown, 1.0));
}`,
    defines: { WHITE_LUX: WHITE_LUX.toFixed(1) },
    uniforms: { albedo: { value: color }, coefficients: { value: light }, ...fogUniforms(air) },
  });

/** A colour a little darker on bodies lower down: even light does not tell them apart. */
const shadeOf = (k: number): number => 0.82 + 0.09 * k;

export function makeFigures(entities: readonly Entity[], air: Partial<MapSettings>): Figures {
  const group = new Group();
  const made = new Map<string, { group: Group; taken: Mesh[]; light: Vector3[] }>();
  for (const e of entities) {
    const bodies = entityKind(e.kind)?.figure(e) ?? [];
    if (bodies.length === 0) continue;
    const figure = new Group();
    const taken: Mesh[] = [];
    const light = Array.from({ length: HARMONICS }, () => new Vector3());
    const { at } = e;
    bodies.forEach((body, k) => {
      const color = new Color(body.color).multiplyScalar(shadeOf(k));
      const mesh = new Mesh(bodyGeometry(body), figureMaterial(color, light, air));
      mesh.position.set(at[0] + body.at[0], at[1] + body.at[1], at[2] + body.at[2]);
      figure.add(mesh);
      if (body.taken) taken.push(mesh);
    });
    figure.matrixAutoUpdate = false;
    made.set(e.id, { group: figure, taken, light });
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
    light: (thing, light) =>
      made.get(thing)?.light.forEach((c, k) => c.set(light[k * 3]!, light[k * 3 + 1]!, light[k * 3 + 2]!)),
    dispose: () =>
      group.traverse((o) => {
        if (!(o instanceof Mesh)) return;
        (o.geometry as BufferGeometry).dispose();
        (o.material as ShaderMaterial).dispose();
      }),
  };
}
