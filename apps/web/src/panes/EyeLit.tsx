import { useThree } from '@react-three/fiber';
import { useEffect, useMemo } from 'react';
import { surfaceBrushes, throwDecals, type Brush, type MapDocument, type ThrownDecals } from '@yesca/core';
import { makeLevelMesh, type LevelMesh } from '../scene/level-mesh.ts';
import { lookInRelief } from '../scene/looks.ts';
import { makeMirrors } from '../scene/mirrors.ts';
import { picturePages } from '../scene/picture-pages.ts';
import type { Chunks } from '../state/chunks.ts';
import { decalsIn } from '../state/decal-pieces.ts';
import { useDisplay } from '../state/display.ts';
import { useEditor } from '../state/editor.ts';
import { materialFacts, useLibrary } from '../state/library.ts';
import { hasLight, sharesNow, sharesThen, useLit, useLitOptions, useMapLit, type Lit } from '../state/lit.ts';

/** The light that the Eye shows: of this map, while it shows any. */
export function useShownLit(): Lit | null {
  const shows = useDisplay((s) => s.eyeMode === 'lit');
  const lit = useMapLit();
  return shows && lit && hasLight(lit) ? lit : null;
}

/** What was left of a list of brushes, for one light: the same list gives the same, so that nothing is drawn anew. */
const left = new WeakMap<readonly Brush[], { readonly lit: Lit; readonly rest: readonly Brush[] }>();

/** The brushes that are not as they were lit. */
export function unlit(lit: Lit, still: Chunks, live: readonly Brush[]): { still: Chunks; live: readonly Brush[] } {
  const rest = (brushes: readonly Brush[]): readonly Brush[] => {
    const known = left.get(brushes);
    if (known?.lit === lit) return known.rest;
    const own = brushes.filter((b) => !isLit(lit, b));
    left.set(brushes, { lit, rest: own });
    return own;
  };
  return { still: still.map(rest), live: live.filter((b) => !isLit(lit, b)) };
}

const surfaced = new WeakMap<Lit, ReadonlySet<string>>();

/** Whether a brush has surfaces that are lit, and is still as it was then. */
function isLit(lit: Lit, brush: Brush): boolean {
  let ids = surfaced.get(lit);
  if (!ids)
    surfaced.set(lit, (ids = new Set([...new Set(lit.ledger.surfaceBrush)].map((k) => lit.ledger.brushes[k]!.id))));
  return ids.has(brush.id) && lit.covers(brush);
}

export function useLevelMesh(lit: Lit): LevelMesh {
  const { gl, invalidate } = useThree();
  const materials = useLibrary((s) => s.materials);
  const mesh = useMemo(() => {
    const pages = picturePages(gl, invalidate);
    return makeLevelMesh(lit.level, pages, (name) => lookInRelief(pages, name, materials.get(name)), lit.mix);
  }, [lit, gl, invalidate, materials]);
  useEffect(() => () => mesh.dispose(), [mesh]);
  return mesh;
}

/** The lit surfaces of brushes that are shown and as they were lit, each lamp as strong as it is now. */
export function EyeLit({
  lit,
  doc,
  still,
  live,
}: {
  lit: Lit;
  doc: MapDocument;
  still: Chunks;
  live: readonly Brush[];
}) {
  const { invalidate } = useThree();
  const mesh = useLevelMesh(lit);
  const { gl } = useThree();
  const mirrors = useMemo(() => makeMirrors(lit.level, gl), [lit, gl]);
  useEffect(() => () => mirrors.dispose(), [mirrors]);
  useShares(mesh, lit);
  const decals = useDecalsOn(lit, doc);
  useEffect(() => {
    mesh.stick(decals);
    invalidate();
  }, [mesh, decals, invalidate]);
  const settings = useEditor((s) => (s.draft ?? s.doc).settings);
  useEffect(() => {
    mesh.follow(settings);
    invalidate();
  }, [mesh, settings, invalidate]);
  const beside = useLit((s) => s.beside !== null);
  useExposure(mesh, beside ? 'right' : null);
  useEffect(() => {
    const shown = new Set([...still, live].flatMap((list) => list.flatMap((b) => (isLit(lit, b) ? [b.id] : []))));
    const on = lit.ledger.brushes.map(({ id }) => shown.has(id));
    // A surface that several brushes share is drawn while any of them is as it was.
    mesh.draw(
      Uint8Array.from(lit.level.surfaceMaterial, (_, s) =>
        Number(surfaceBrushes(lit.ledger, s).some((brush) => on[brush])),
      ),
    );
    // Beside another build nothing is mirrored: what is left of the line would be seen in it.
    mirrors.show(beside ? new Uint8Array(mesh.drawn.length) : mesh.drawn);
    invalidate();
  }, [mesh, mirrors, lit, still, live, beside, invalidate]);
  return [...mesh.meshes, mesh.decals, ...mirrors.meshes].map((m) => <primitive key={m.uuid} object={m} />);
}

/** The decals of a document on the surfaces that are lit: they are seen as they lie now, wherever they lay when it was built. */
function useDecalsOn(lit: Lit, doc: MapDocument): ThrownDecals {
  const materials = useLibrary((s) => s.materials);
  // What else changes in a map leaves decals as they are; one that stays is not cut again.
  const things = decalsIn(doc);
  const lookup = useMemo(() => (name: string) => materials.get(name), [materials]);
  return useMemo(
    () =>
      throwDecals(lit.level, things, {
        brushesOf: (surface) => Array.from(surfaceBrushes(lit.ledger, surface), (k) => lit.ledger.brushes[k]!.id),
        brush: (id) => useEditor.getState().doc.brushes.get(id),
        materials: lookup,
      }),
    [lit, things, lookup],
  );
}

/** Lets each lamp shine as it is set, also while it is being set. */
export function useShares(mesh: LevelMesh, lit: Lit): void {
  const { invalidate } = useThree();
  const doc = useEditor((s) => s.draft ?? s.doc);
  const materials = useLibrary((s) => s.materials);
  const alone = useLit((s) => s.alone);
  const out = useLit((s) => s.out);
  useEffect(() => {
    mesh.shine(sharesNow(lit, doc, materialFacts, { alone, out }));
    useLit.setState({ mixed: useLit.getState().mixed + 1 });
    invalidate();
  }, [mesh, lit, doc, materials, alone, out, invalidate]);
}

/** The build that is shown on the left of the split, all of it as it was built. */
export function EyeBeside({ lit }: { lit: Lit }) {
  const { invalidate } = useThree();
  const mesh = useLevelMesh(lit);
  useExposure(mesh, 'left');
  useEffect(() => {
    mesh.shine(sharesThen(lit, materialFacts));
    mesh.draw(new Uint8Array(lit.level.surfaceMaterial.length).fill(1));
    useLit.setState({ mixed: useLit.getState().mixed + 1 });
    invalidate();
  }, [mesh, lit, invalidate]);
  return [...mesh.meshes, mesh.decals].map((m) => <primitive key={m.uuid} object={m} />);
}

function useExposure(mesh: LevelMesh, side: 'left' | 'right' | null): void {
  const { invalidate, gl, size } = useThree();

  const split = useLit((s) => s.split);
  const { stops, banded, dark, bright, luxels, relief, details } = useLitOptions();
  useEffect(() => {
    // The line lies where it is on the screen: in pixels of the picture.
    const line = split * size.width * gl.getPixelRatio();
    mesh.expose({
      stops,
      bands: banded ? [dark, bright] : null,
      luxels,
      smooth: !relief,
      plain: !details,
      side: side && [line, side],
    });
    invalidate();
  }, [mesh, stops, banded, dark, bright, luxels, relief, details, side, split, size, gl, invalidate]);
}
