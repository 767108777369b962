import { useFrame, useThree } from '@react-three/fiber';
import { useEffect, useMemo } from 'react';
import {
  BufferAttribute,
  BufferGeometry,
  HalfFloatType,
  Mesh,
  Scene,
  ShaderMaterial,
  WebGLRenderTarget,
  type Texture,
} from 'three';
import { IN_PLAY, type LevelMesh } from '../scene/level-mesh.ts';
import { materialFacts } from '../state/library.ts';
import { sharesThen, type Lit } from '../state/lit.ts';
import { useLevelMesh, useShares } from './EyeLit.tsx';

/** Light that differs by so many stops has the full colour. */
const FULL_STOPS = 1;

/** Both lights in what their texels count; less than a hundredth of a lux apart is alike. */
const differenceMaterial = (ours: Texture, theirs: Texture): ShaderMaterial =>
  new ShaderMaterial({
    vertexShader: /* glsl */ `
varying vec2 vUv;
void main() {
  vUv = position.xy * 0.5 + 0.5;
  gl_Position = vec4(position.xy, 1.0, 1.0);
}`,
    fragmentShader: /* glsl */ `
uniform sampler2D ours;
uniform sampler2D theirs;
uniform float full;
uniform float seen;
varying vec2 vUv;
const vec3 LUMINANCE = vec3(0.2126, 0.7152, 0.0722);
const vec3 ALIKE = vec3(0.82, 0.78, 0.7);
const vec3 BRIGHTER = vec3(0.72, 0.13, 0.05);
const vec3 DARKER = vec3(0.06, 0.2, 0.6);
void main() {
  vec4 a = texture(ours, vUv);
  vec4 b = texture(theirs, vUv);
  if (a.a == 0.0 && b.a == 0.0) discard;
  float stops = log2((dot(a.rgb, LUMINANCE) + 1e-4) / (dot(b.rgb, LUMINANCE) + 1e-4));
  float part = clamp(abs(stops) / full, 0.0, 1.0);
  // Lines of like difference every quarter, so that it can be read without hue.
  float line = 1.0 - smoothstep(0.0, 1.5, abs(fract(part * 4.0 - 0.5) - 0.5) / max(fwidth(part * 4.0), 1e-4));
  vec3 color = mix(ALIKE, stops < 0.0 ? DARKER : BRIGHTER, part);
  color = mix(color, color * 0.55, line * step(0.1, part) * step(part, 0.95));
  // Where it is dark it is a little darker, so that one sees where one is.
  color *= 0.55 + 0.45 * (1.0 - exp(-dot(a.rgb, LUMINANCE) * seen));
  // A surface that only one of them has.
  if (a.a == 0.0 || b.a == 0.0) color = mix(color, vec3(0.1), step(0.5, fract((gl_FragCoord.x + gl_FragCoord.y) / 10.0)) * 0.5);
  gl_FragColor = linearToOutputTexel(vec4(color, 1.0));
}`,
    uniforms: {
      ours: { value: ours },
      theirs: { value: theirs },
      full: { value: FULL_STOPS },
      seen: { value: IN_PLAY },
    },
    depthTest: false,
    depthWrite: false,
  });

const screen = (): BufferGeometry => {
  const geometry = new BufferGeometry();
  // One triangle that is larger than the screen.
  geometry.setAttribute('position', new BufferAttribute(Float32Array.of(-1, -1, 0, 3, -1, 0, -1, 3, 0), 3));
  return geometry;
};

/** By how much the light that is shown differs from that of another build: red where it is brighter, blue where it is darker, by stops. */
export function EyeDifference({ lit, beside }: { lit: Lit; beside: Lit }) {
  const { gl, size, camera, invalidate } = useThree();
  const ours = useLevelMesh(lit);
  const theirs = useLevelMesh(beside);
  useShares(ours, lit);
  const views = useMemo(() => [ours, theirs].map((mesh) => viewOf(mesh)), [ours, theirs]);
  const picture = useMemo(() => {
    const [a, b] = views.map(({ target }) => target.texture);
    const mesh = new Mesh(screen(), differenceMaterial(a!, b!));
    mesh.frustumCulled = false;
    mesh.renderOrder = -1;
    return mesh;
  }, [views]);
  useEffect(() => {
    theirs.shine(sharesThen(beside, materialFacts));
    for (const mesh of [ours, theirs]) {
      mesh.expose({ stops: 0, bands: null, side: null, bare: true });
      mesh.draw(new Uint8Array(mesh.drawn.length).fill(1));
    }
    invalidate();
  }, [ours, theirs, beside, invalidate]);
  useEffect(() => {
    const ratio = gl.getPixelRatio();
    for (const { target } of views) target.setSize(size.width * ratio, size.height * ratio);
    invalidate();
    return () => views.forEach(({ target }) => target.dispose());
  }, [views, size, gl, invalidate]);
  useEffect(
    () => () => {
      picture.geometry.dispose();
      picture.material.dispose();
    },
    [picture],
  );
  useFrame(() => {
    const before = gl.getRenderTarget();
    const alpha = gl.getClearAlpha();
    gl.setClearAlpha(0);
    for (const { target, scene: view } of views) {
      gl.setRenderTarget(target);
      gl.clear();
      gl.render(view, camera);
    }
    gl.setRenderTarget(before);
    gl.setClearAlpha(alpha);
  });
  return <primitive object={picture} />;
}

/** A scene of its own for one light, and what it is drawn into. */
function viewOf(mesh: LevelMesh): { readonly scene: Scene; readonly target: WebGLRenderTarget } {
  const scene = new Scene();
  scene.add(...mesh.meshes, mesh.decals);
  return { scene, target: new WebGLRenderTarget(1, 1, { type: HalfFloatType }) };
}
