import { useFrame, useThree } from '@react-three/fiber';
import { useEffect, useMemo } from 'react';
import { BackSide, Mesh, PerspectiveCamera, Scene, SphereGeometry, type Camera, type WebGLRenderer } from 'three';
import {
  sceneryEye,
  sceneryLevel,
  AT_REST,
  worldOfLevel,
  type Level,
  type LevelScenery,
  type MapSettings,
} from '@yesca/core';
import { makeLevelMesh } from '../../scene/level-mesh.ts';
import { makeLevelProps } from '../../scene/level-props.ts';
import { lookInRelief, lookOf } from '../../scene/looks.ts';
import { makePropDecals } from '../../scene/prop-decals.ts';
import { followSky, skyMaterial } from '../../scene/sky.ts';
import { picturePages } from '../../scene/picture-pages.ts';
import { useLibrary } from '../../state/library.ts';
import { useLitOptions } from '../../state/lit.ts';

/** Fog lies in the map's own measure. */
const fogOn = (settings: MapSettings, { scale }: LevelScenery): MapSettings => ({
  ...settings,
  fogReach: (settings.fogReach ?? 0) / scale,
});

/** No cell: from there everything may be seen. */
const OUTSIDE = -1;
/** The nearest that is drawn of a scenery, as a part of what it is on the map. */
const NEAR = 2;

/** The distant scenery of a level, drawn before it; the faces of the level that show the sky then let it through. */
export function Distance({ level, ...rest }: { level: Level; sky: readonly Mesh[]; settings: MapSettings }) {
  const far = useMemo(() => sceneryLevel(level), [level]);
  const { scenery } = level.meta;
  return far && scenery ? <Behind far={far} scenery={scenery} {...rest} /> : null;
}

function Behind({
  far,
  scenery,
  sky,
  settings,
}: {
  far: Level;
  scenery: LevelScenery;
  sky: readonly Mesh[];
  settings: MapSettings;
}) {
  const { gl, invalidate } = useThree();
  const materials = useLibrary((s) => s.materials);
  const behind = useMemo(() => {
    const pages = picturePages(gl, invalidate);
    const mesh = makeLevelMesh(far, pages, (name) => lookInRelief(pages, name, materials.get(name)));
    // It is small: all of it is drawn, and what is hidden is behind what is before it.
    mesh.draw(new Uint8Array(far.surfaceMaterial.length).fill(1));
    const scene = new Scene();
    // From far off on the map one may look past the scenery's own sky.
    const dome = new Mesh(new SphereGeometry(1), skyMaterial(far.meta.settings));
    dome.material.side = BackSide;
    dome.material.depthTest = dome.material.depthWrite = false;
    dome.renderOrder = -1;
    scene.add(dome, ...mesh.meshes, mesh.decals);
    const camera = new PerspectiveCamera();
    const lookAs = (eye: PerspectiveCamera): void => {
      camera.copy(eye, false);
      camera.position.set(...sceneryEye(scenery, eye.position.toArray()));
      camera.near = NEAR / scenery.scale;
      camera.updateProjectionMatrix();
      camera.updateMatrixWorld();
      dome.position.copy(camera.position);
    };
    return { mesh, dome, scene, camera, lookAs };
  }, [far, scenery, gl, invalidate, materials]);
  const details = useLitOptions((s) => s.details);
  useEffect(() => {
    const pages = picturePages(gl, invalidate);
    const world = worldOfLevel(far);
    const look = (name: string) => lookOf(pages, name, materials.get(name));
    const air = fogOn(far.meta.settings, scenery);
    const own = { ...far, meta: { ...far.meta, settings: air } };
    const props = makeLevelProps(own, world, makePropDecals(pages, air, look), details);
    // All of it is drawn, and it stays as it was built.
    props.show(OUTSIDE, null);
    props.follow(
      world.bodies.map(() => AT_REST),
      () => false,
      new Map(),
      false,
    );
    behind.scene.add(props.group);
    return () => {
      behind.scene.remove(props.group);
      props.dispose();
    };
  }, [behind, far, scenery, gl, invalidate, materials, details]);
  useEffect(
    () => () => {
      behind.mesh.dispose();
      behind.dome.geometry.dispose();
      behind.dome.material.dispose();
    },
    [behind],
  );
  useEffect(() => {
    behind.mesh.follow(fogOn(settings, scenery));
    followSky(behind.dome.material, settings);
  }, [behind, settings, scenery]);
  const eye = useThree((s) => s.camera) as PerspectiveCamera;
  useEffect(() => letThrough(sky, eye), [sky, eye]);
  useFrame(({ gl, scene }) => {
    behind.lookAs(eye);
    drawBefore(gl, behind.scene, behind.camera, () => gl.render(scene, eye));
  }, 1);
  return null;
}

/** Faces that show the sky write no colour for the player's own eye; in a mirror they show the plain sky. */
function letThrough(sky: readonly Mesh[], eye: Camera): void {
  for (const mesh of sky)
    mesh.onBeforeRender = (_, __, camera, ___, material) => {
      material.colorWrite = camera !== eye;
    };
}

/** Draws a scene behind all that `rest` draws. */
function drawBefore(gl: WebGLRenderer, scene: Scene, camera: Camera, rest: () => void): void {
  gl.autoClear = false;
  gl.clear();
  gl.render(scene, camera);
  gl.clearDepth();
  rest();
  gl.autoClear = true;
}
