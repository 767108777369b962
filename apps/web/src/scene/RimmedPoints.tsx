import type { BufferGeometry } from 'three';

/** Handles of a fixed size on screen, over everything: a rim and a filling, so that they show on any material. */
export function RimmedPoints({ geometry, rim, fill }: { geometry: BufferGeometry; rim: string; fill: string }) {
  return [
    { size: 11, color: rim },
    { size: 7, color: fill },
  ].map(({ size, color }, k) => (
    <points key={size} geometry={geometry} renderOrder={5 + k}>
      <pointsMaterial color={color} size={size} sizeAttenuation={false} depthTest={false} transparent />
    </points>
  ));
}
