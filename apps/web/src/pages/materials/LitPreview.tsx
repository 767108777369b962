import { Canvas, useThree } from '@react-three/fiber';
import { useEffect, useMemo, useRef } from 'react';
import { PlaneGeometry, RepeatWrapping, SRGBColorSpace, TextureLoader, type PointLight, type Texture } from 'three';
import type { Material } from '@yesca/stock';
import { pictureUrl } from '../../state/remote.ts';

/** A wall of three repeats either way, lit by a lamp that follows the pointer: colours, relief and roughness together. */
export function LitPreview({ material }: { material: Material }) {
  const light = useRef<{ x: number; y: number }>({ x: 0.4, y: 0.5 });
  return (
    <div
      className="lit-preview"
      data-testid="lit-preview"
      onPointerMove={(event) => {
        const bounds = event.currentTarget.getBoundingClientRect();
        light.current = {
          x: ((event.clientX - bounds.left) / bounds.width) * 2 - 1,
          y: 1 - ((event.clientY - bounds.top) / bounds.height) * 2,
        };
        event.currentTarget.dispatchEvent(new Event('yesca-light'));
      }}
    >
      <Canvas key={material.name} frameloop="demand" dpr={1} orthographic camera={{ position: [0, 0, 10], zoom: 100 }}>
        <ambientLight intensity={0.7} />
        <Wall material={material} light={light} />
      </Canvas>
    </div>
  );
}

function load(name: string, picture: 'albedo' | 'normal' | 'roughness', ready: () => void): Texture {
  const texture = new TextureLoader().load(pictureUrl(name, picture), ready);
  texture.wrapS = texture.wrapT = RepeatWrapping;
  if (picture === 'albedo') texture.colorSpace = SRGBColorSpace;
  return texture;
}

function Wall({ material, light }: { material: Material; light: React.RefObject<{ x: number; y: number }> }) {
  const { invalidate, size, gl } = useThree();
  const lamp = useRef<PointLight>(null);
  const [w, h] = [size.width / 100, size.height / 100];
  const textures = useMemo(
    () =>
      (['albedo', 'normal', 'roughness'] as const).map((p) =>
        material.lacks?.includes(p) ? null : load(material.name, p, invalidate),
      ),
    [material, invalidate],
  );
  const plane = useMemo(() => {
    const geometry = new PlaneGeometry(w, h);
    const across = 3;
    const down = (across * h * material.width) / (w * material.height);
    const uv = geometry.getAttribute('uv');
    for (let i = 0; i < uv.count; i++) uv.setXY(i, uv.getX(i) * across, 1 + (uv.getY(i) - 1) * down);
    return geometry;
  }, [w, h, material.width, material.height]);
  useEffect(() => {
    const frame = gl.domElement.closest('.lit-preview')!;
    const move = () => {
      lamp.current?.position.set((light.current.x * w) / 2, (light.current.y * h) / 2, 1.1);
      invalidate();
    };
    move();
    frame.addEventListener('yesca-light', move);
    return () => {
      frame.removeEventListener('yesca-light', move);
      plane.dispose();
    };
  }, [gl, invalidate, light, plane, w, h]);
  useEffect(() => () => textures.forEach((t) => t?.dispose()), [textures]);
  return (
    <>
      <pointLight ref={lamp} intensity={9} distance={0} decay={1.6} />
      <mesh geometry={plane}>
        <meshStandardMaterial
          map={textures[0]}
          normalMap={textures[1]}
          roughnessMap={textures[2]}
          roughness={textures[2] ? 1 : material.roughness}
          transparent={material.solidity === 'seeThrough'}
          alphaTest={material.solidity === 'cutOut' ? 0.5 : 0}
        />
      </mesh>
    </>
  );
}
