import { Matrix4, Mesh, type BufferGeometry, type Color, type MeshStandardMaterial, type Texture } from 'three';
import { GLTFLoader } from 'three/examples/jsm/loaders/GLTFLoader.js';
import type { BillboardFacing } from '@yesca/core';
import { propUrl } from '../state/remote.ts';

/** Triangles of a prop that look alike, in its own space: cm, z up. */
export interface PropPiece {
  readonly geometry: BufferGeometry;
  readonly picture: Texture | null;
  readonly color: Color;
  /** What it gives off, of white. */
  readonly glow: Color;
  /** What of the picture covers less than this is not there; 0 for all of it. */
  readonly cut: number;
  readonly doubleSided: boolean;
  /** What leans or shines otherwise than its corners say; absent for what is flat and dull. */
  readonly relief?: {
    /** Which way it leans, and how strongly that is meant. */
    readonly normal: Texture | null;
    readonly strength: number;
    /** How rough it is, 0 to 1: of all of it, and a picture (green) of which part. */
    readonly rough: number;
    readonly roughness: Texture | null;
  };
  /** How it stands, of what is a picture. */
  readonly stands?: BillboardFacing;
  /** What is behind it shows through. */
  readonly seeThrough?: boolean;
}

/** What is rougher shines too little to be seen. */
const DULL = 0.5;

const models = new Map<string, Promise<readonly PropPiece[]>>();

/** From metres with y up to cm with z up. */
const OURS = new Matrix4().set(100, 0, 0, 0, 0, 0, -100, 0, 0, 100, 0, 0, 0, 0, 0, 1);

async function load(url: string): Promise<readonly PropPiece[]> {
  const { scene } = await new GLTFLoader().loadAsync(url);
  scene.updateMatrixWorld(true);
  const pieces: PropPiece[] = [];
  scene.traverse((o) => {
    if (!(o instanceof Mesh)) return;
    const look = o.material as MeshStandardMaterial;
    const geometry = (o.geometry as BufferGeometry).clone();
    geometry.applyMatrix4(new Matrix4().multiplyMatrices(OURS, o.matrixWorld));
    geometry.normalizeNormals();
    const relief = look.normalMap !== null || look.roughnessMap !== null || look.roughness < DULL;
    pieces.push({
      ...(relief && {
        relief: {
          normal: look.normalMap,
          strength: look.normalScale.x,
          rough: look.roughness,
          roughness: look.roughnessMap,
        },
      }),
      geometry,
      picture: look.map,
      color: look.color,
      glow: look.emissive,
      cut: look.alphaTest || (look.transparent ? 0.25 : 0),
      doubleSided: look.side === 2,
    });
  });
  return pieces;
}

/** A prop as it is drawn, loaded once. Rejects where it cannot be read. */
export function propModel(name: string): Promise<readonly PropPiece[]> {
  const url = propUrl(name, 'glb');
  let known = models.get(url);
  if (!known) {
    models.set(url, (known = load(url)));
    // It is asked for again the next time.
    known.catch(() => models.delete(url));
  }
  return known;
}
