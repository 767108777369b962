import { useThree } from '@react-three/fiber';
import { useEffect, useMemo } from 'react';
import { propBrushes, propOfBrush, stopsPlayers, type Brush, type MapDocument } from '@yesca/core';
import { useDisplay } from '../state/display.ts';
import { propFacts, useLibrary } from '../state/library.ts';
import { CollisionShape } from './CollisionShape.tsx';
import { edgeGeometry, solidFaces, solidsOf } from './eye-geometry.ts';
import { useInks, type Inks } from './inks.ts';

type What = 'drawn' | 'clip' | 'model';

/** What stands in a player's way looks by what it is: drawn solids faint, clip and props strong. */
const SHOWN: Readonly<Record<What, { readonly ink: keyof Inks; readonly opacity: number }>> = {
  drawn: { ink: 'verdigris', opacity: 0.16 },
  clip: { ink: 'madder', opacity: 0.32 },
  model: { ink: 'indigo', opacity: 0.32 },
};

const whatOf = (b: Brush): What => (propOfBrush(b) ? 'model' : b.role === 'clip' ? 'clip' : 'drawn');

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
      faces: solidFaces(solidsOf(by[what])),
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
    <CollisionShape key={what} faces={faces} edges={edges} ink={inks[SHOWN[what].ink]} opacity={SHOWN[what].opacity} />
  ));
}
