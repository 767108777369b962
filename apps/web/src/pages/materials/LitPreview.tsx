import { Canvas, useThree } from '@react-three/fiber';
import { useEffect, useMemo, useState } from 'react';
import { BufferAttribute, PlaneGeometry, RepeatWrapping, TextureLoader, Vector3, type Texture } from 'three';
import type { Material } from '@yesca/stock';
import { batchMaterial, lookOf } from '../../scene/looks.ts';
import { picturePages } from '../../scene/picture-pages.ts';
import { pictureUrl } from '../../state/remote.ts';

/** Where the lamp hangs over the wall: −1 to 1 across and up. */
type Place = readonly [number, number];

/** A wall of three repeats either way, lit by a lamp that follows the pointer: colours, relief and roughness together. */
export function LitPreview({ material }: { material: Material }) {
  const [lamp, setLamp] = useState<Place>([0.4, 0.5]);
  return (
    <div
      className="stock-preview"
      data-testid="lit-preview"
      onPointerMove={({ currentTarget, clientX, clientY }) => {
        const { left, top, width, height } = currentTarget.getBoundingClientRect();
        setLamp([((clientX - left) / width) * 2 - 1, 1 - ((clientY - top) / height) * 2]);
      }}
    >
      <Canvas key={material.name} frameloop="demand" dpr={1} orthographic camera={{ position: [0, 0, 10], zoom: 100 }}>
        <Wall material={material} lamp={lamp} />
      </Canvas>
    </div>
  );
}

function load(name: string, picture: 'normal' | 'roughness', ready: () => void): Texture {
  const texture = new TextureLoader().load(pictureUrl(name, picture), ready);
  texture.wrapS = texture.wrapT = RepeatWrapping;
  // Rows run down, as on the pages.
  texture.flipY = false;
  return texture;
}

/** How many repeats lie side by side. */
const ACROSS = 3;

function Wall({ material, lamp }: { material: Material; lamp: Place }) {
  const { invalidate, size, gl } = useThree();
  const [w, h] = [size.width / 100, size.height / 100];
  const [at] = useState(() => new Vector3());
  const look = useMemo(() => lookOf(picturePages(gl, invalidate), material.name, material), [gl, invalidate, material]);
  const surface = useMemo(() => {
    const of = (picture: 'normal' | 'roughness') =>
      material.lacks?.includes(picture) ? null : load(material.name, picture, invalidate);
    const [relief, rough] = [of('normal'), of('roughness')];
    const made = batchMaterial(picturePages(gl, invalidate), look.key, {
      view: 'textured',
      light: { by: 'lamp', at, relief, rough: rough ?? material.roughness },
    });
    return { made, textures: [relief, rough] };
  }, [material, look, gl, invalidate, at]);
  const plane = useMemo(() => {
    const geometry = new PlaneGeometry(w, h);
    const down = (ACROSS * h * material.width) / (w * material.height);
    const uv = geometry.getAttribute('uv');
    for (let i = 0; i < uv.count; i++) uv.setXY(i, uv.getX(i) * ACROSS, (1 - uv.getY(i)) * down);
    geometry.setAttribute('layer', new BufferAttribute(new Float32Array(uv.count).fill(look.layer), 1));
    return geometry;
  }, [w, h, material.width, material.height, look]);
  useEffect(() => {
    at.set((lamp[0] * w) / 2, (lamp[1] * h) / 2, 1.1);
    invalidate();
  }, [at, lamp, w, h, invalidate]);
  useEffect(() => () => plane.dispose(), [plane]);
  useEffect(
    () => () => {
      surface.made.dispose();
      surface.textures.forEach((t) => t?.dispose());
    },
    [surface],
  );
  return (
    <mesh geometry={plane}>
      <primitive object={surface.made} attach="material" />
    </mesh>
  );
}
