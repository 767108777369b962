import { useThree } from '@react-three/fiber';
import { useEffect, useMemo } from 'react';
import { BufferAttribute, BufferGeometry } from 'three';
import { propBrushes, propOfBrush, stopsPlayers, type Brush, type MapDocument } from '@yesca/core';
import { useDisplay } from '../state/display.ts';
import { propFacts, useLibrary } from '../state/library.ts';
import { edgeGeometry } from './eye-geometry.ts';
import { useInks, type Inks } from './inks.ts';

type What = 'drawn' | 'clip' | 'model';

/** What stands in a player's way looks by what it is: drawn solids faint, clip and props strong. */
const SHOWN: Readonly<Record<What, { readonly ink: keyof Inks; readonly opacity: number }>> = {
  drawn: { ink: 'verdigris', opacity: 0.16 },
  clip: { ink: 'madder', opacity: 0.32 },
  model: { ink: 'indigo', opacity: 0.32 },
};

const whatOf = (b: Brush): What => (propOfBrush(b) ? 'model' : b.role === 'clip' ? 'clip' : 'drawn');

/** All faces of solids as triangles. */
function solidGeometry(brushes: readonly Brush[]): BufferGeometry {
  const position: number[] = [];
  for (const { vertices, faces } of brushes)
    for (const { loop } of faces)
      for (let k = 2; k < loop.length; k++)
        for (const i of [loop[0]!, loop[k - 1]!, loop[k]!]) position.push(...vertices[i]!);
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(new Float32Array(position), 3));
  return geometry;
}

/** What players run into, over the picture: brushes, clip, and props as they collide. */
export function EyeCollision({ doc }: { doc: MapDocument }) {
  const shown = useDisplay((s) => s.collisions);
  return shown ? <Colliding doc={doc} /> : null;
}

function Colliding({ doc }: { doc: MapDocument }) {
  const { invalidate } = useThree();
  const inks = useInks();
  const library = useLibrary((s) => s.props);
  const { brushes, entities } = doc;
  const groups = useMemo(() => {
    const by: Record<What, Brush[]> = { drawn: [], clip: [], model: [] };
    const props = library.size > 0 ? propBrushes({ entities }, propFacts) : [];
    for (const b of [...brushes.values(), ...props]) if (stopsPlayers(b)) by[whatOf(b)].push(b);
    return (Object.keys(by) as What[]).map((what) => ({
      what,
      faces: solidGeometry(by[what]),
      // The edges of all that is drawn anyway would hide the rest.
      edges: edgeGeometry(what === 'drawn' ? [] : by[what]),
    }));
  }, [brushes, entities, library]);
  useEffect(() => {
    invalidate();
    return () => {
      groups.forEach(({ faces, edges }) => [faces, edges].forEach((g) => g.dispose()));
      invalidate();
    };
  }, [groups, invalidate]);
  return groups.map(({ what, faces, edges }) => (
    <group key={what}>
      <mesh geometry={faces} renderOrder={5}>
        <meshBasicMaterial
          color={inks[SHOWN[what].ink]}
          opacity={SHOWN[what].opacity}
          transparent
          depthWrite={false}
          polygonOffset
          polygonOffsetFactor={-2}
          polygonOffsetUnits={-2}
        />
      </mesh>
      <lineSegments geometry={edges} renderOrder={6}>
        <lineBasicMaterial color={inks[SHOWN[what].ink]} />
      </lineSegments>
    </group>
  ));
}
