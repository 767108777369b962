import type { BufferGeometry } from 'three';

/** What something collides as, over its picture: faces that are seen through, and edges. */
export function CollisionShape({
  faces,
  edges,
  ink,
  opacity,
}: {
  faces: BufferGeometry;
  edges: BufferGeometry;
  ink: string;
  opacity: number;
}) {
  return (
    <group>
      <mesh geometry={faces} renderOrder={5}>
        <meshBasicMaterial
          color={ink}
          opacity={opacity}
          transparent
          depthWrite={false}
          polygonOffset
          polygonOffsetFactor={-2}
          polygonOffsetUnits={-2}
        />
      </mesh>
      <lineSegments geometry={edges} renderOrder={6}>
        <lineBasicMaterial color={ink} />
      </lineSegments>
    </group>
  );
}
