import { useThree } from '@react-three/fiber';
import { useEffect, useMemo } from 'react';
import { BufferAttribute, BufferGeometry, Color, DoubleSide } from 'three';
import { levelSees, type Sight, type Vec3 } from '@yesca/core';
import { cellFaces } from '../geometry/cell-shape.ts';
import { useDisplay } from '../state/display.ts';
import { seenSurfaces, sightGeometry } from '../scene/sight-geometry.ts';
import { cellAt, useSight } from '../state/sight.ts';
import { useInks } from './inks.ts';

/** The golden section: neighbours in number get hues far apart. */
const APART = 0.618034;

/** Cells are drawn so much smaller (cm) that walls they end at do not show through. */
const WITHIN = 0.8;

/** The cells of the map: tinted each in a hue of its own, their borders drawn. */
export function EyeCells() {
  const shown = useDisplay((s) => s.eyeMode === 'cells');
  const sight = useSight((s) => s.sight);
  const pin = useSight((s) => s.pin);
  if (!shown || !sight) return null;
  const from = pin ? cellAt(sight, pin) : -1;
  return (
    <>
      <Cells sight={sight} from={from} />
      {pin && from >= 0 && <SeenFrom sight={sight} pin={pin} from={from} />}
    </>
  );
}

/** What is not drawn from the pin fades, and the pin is marked. */
function SeenFrom({ sight, pin, from }: { sight: Sight; pin: Vec3; from: number }) {
  const inks = useInks();
  const invalidate = useThree((s) => s.invalidate);
  const unseen = useMemo(() => sightGeometry(sight, seenSurfaces(sight, from), 0), [sight, from]);
  useEffect(() => {
    invalidate();
    return () => {
      unseen.dispose();
      invalidate();
    };
  }, [unseen, pin, invalidate]);
  return (
    <>
      <mesh geometry={unseen} renderOrder={1}>
        <meshBasicMaterial
          color={inks.paper}
          transparent
          opacity={0.86}
          depthWrite={false}
          side={DoubleSide}
          polygonOffset
          polygonOffsetFactor={-2}
          polygonOffsetUnits={-2}
        />
      </mesh>
      <mesh position={pin as [number, number, number]} renderOrder={3}>
        <sphereGeometry args={[6, 16, 12]} />
        <meshBasicMaterial color={inks.ember} />
      </mesh>
    </>
  );
}

/** All cells, or those that are seen from one. */
function Cells({ sight, from }: { sight: Sight; from: number }) {
  const { ink } = useInks();
  const invalidate = useThree((s) => s.invalidate);
  const { faces, borders } = useMemo(() => cellGeometry(sight, from), [sight, from]);
  useEffect(() => {
    invalidate();
    return () => {
      faces.dispose();
      borders.dispose();
      invalidate();
    };
  }, [faces, borders, invalidate]);
  return (
    <>
      <mesh geometry={faces} renderOrder={1}>
        <meshBasicMaterial vertexColors transparent opacity={0.24} depthWrite={false} side={DoubleSide} />
      </mesh>
      <lineSegments geometry={borders} renderOrder={2}>
        <lineBasicMaterial color={ink} transparent opacity={0.7} />
      </lineSegments>
    </>
  );
}

function cellGeometry(sight: Sight, from: number): { faces: BufferGeometry; borders: BufferGeometry } {
  const position: number[] = [];
  const color: number[] = [];
  const index: number[] = [];
  const lines: number[] = [];
  const hue = new Color();
  for (let cell = 0; cell < sight.meta.cells; cell++) {
    if (from >= 0 && !levelSees(sight, from, cell)) continue;
    hue.setHSL((cell * APART) % 1, 0.55, 0.5);
    for (const w of cellFaces(sight, cell, WITHIN)) {
      const base = position.length / 3;
      w.forEach((p, i) => {
        position.push(...p);
        color.push(hue.r, hue.g, hue.b);
        if (i >= 2) index.push(base, base + i - 1, base + i);
        lines.push(...p, ...w[(i + 1) % w.length]!);
      });
    }
  }
  const faces = new BufferGeometry();
  faces.setAttribute('position', new BufferAttribute(Float32Array.from(position), 3));
  faces.setAttribute('color', new BufferAttribute(Float32Array.from(color), 3));
  faces.setIndex(index);
  const borders = new BufferGeometry();
  borders.setAttribute('position', new BufferAttribute(Float32Array.from(lines), 3));
  return { faces, borders };
}
