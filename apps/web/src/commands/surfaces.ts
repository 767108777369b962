import { call, facesWith, type Alignment, type Call, type FaceRef, type Vec3 } from '@yesca/core';
import { useEditor } from '../state/editor.ts';
import { materialFacts, materialLabel } from '../state/library.ts';
import { notify } from '../state/notify.ts';
import { NOTHING } from '../state/selection.ts';
import { lastPainted } from './last-painted.ts';
import { surfaceUnder } from '../geometry/surface-under.ts';
import { lastPane } from '../state/last-pane.ts';
import { useCurrent } from '../state/current.ts';
import { useLaying } from '../state/laying.ts';

const editor = () => useEditor.getState();

/** The selected faces, or the one that was painted last; with neither, a hint. */
function chosen(atLeast = 1): readonly FaceRef[] | null {
  const { faces } = editor().selection;
  if (faces.length >= atLeast) return faces;
  const painted = faces.length === 0 && atLeast === 1 ? lastPainted() : null;
  if (painted) return [painted];
  notify(
    atLeast === 1
      ? 'Select faces first: Alt-click in Pick, Ctrl-click in Paint.'
      : 'Select two or more faces: the first is what the others are laid by.',
  );
  return null;
}

function onFaces(make: (faces: readonly FaceRef[]) => Call, atLeast = 1): void {
  const faces = chosen(atLeast);
  if (faces) editor().run(make(faces));
}

/** Does one thing to the texture of the selected faces, each by itself or as one piece. */
export const alignSelected = (align: Alignment): void =>
  onFaces((faces) => call('face.align', { faces, align, asPiece: useLaying.getState().asPiece }));

export const fitSelected = (): void => alignSelected({ do: 'fit', repeats: useLaying.getState().repeats });

/** Moves the picture of the selected faces by the step of texels, or by the grid's step on the face. */
export function nudgeTexture(across: number, down: number): void {
  const { texelStep, nudgeBy } = useLaying.getState();
  const step = nudgeBy === 'grid' ? editor().doc.settings.grid : texelStep;
  alignSelected({ do: 'nudge', across: across * step, down: down * step, unit: nudgeBy === 'grid' ? 'cm' : 'texels' });
}

/** From the first selected face to the others. */
export const flowSelected = (): void =>
  onFaces(
    ([from, ...faces]) =>
      call('face.flow', { from: from!, faces, seam: useLaying.getState().seam, close: useLaying.getState().closeFlow }),
    2,
  );
export const copySelected = (): void => onFaces(([from, ...faces]) => call('face.copy', { from: from!, faces }), 2);
export const mirrorSelected = (): void => onFaces(([from, ...faces]) => call('face.mirror', { from: from!, faces }));
export const bothSidesSelected = (): void => onFaces((faces) => call('face.bothSides', { faces }));

/** A reflection probe before each of them. */
export const reflectBeforeSelected = (): void => onFaces((faces) => call('reflection.before', { faces }));

/** Another start of the picture for each face, a new one every time. */
export const scatterSelected = (turn: boolean): void =>
  onFaces((faces) => call('face.scatter', { faces, seed: Math.floor(Math.random() * 2 ** 31), turn }));

/** Selects all faces that have the active material. */
export function selectWithMaterial(material = useCurrent.getState().material): void {
  const faces = facesWith(editor().doc, material);
  if (faces.length === 0) notify(`No face has ${materialLabel(material)}.`);
  else editor().select({ ...NOTHING, faces });
}

/** The active material in the place of another one through the map. */
export function replaceThroughMap(from: string, to = useCurrent.getState().material): void {
  if (from === to) return notify('Make another material active first: that one takes its place.');
  const count = facesWith(editor().doc, from).length;
  if (editor().run(call('material.replace', { from, to })))
    notify(`${materialLabel(to)} took the place of ${materialLabel(from)} on ${count} faces.`);
}

/** How a thin sheet is made: a side of 0 cm is the picture's natural size. */
export interface SheetLook {
  readonly width: number;
  readonly height: number;
  readonly crosswise: boolean;
}

/** The active material, for what stands as a thin picture; null, and it is told, where there is none. */
export function materialInHand(): string | null {
  const { material } = useCurrent.getState();
  const facts = materialFacts(material);
  if (!facts) {
    notify('Make a material active in Stock first, such as reed, fern or ivy.');
    return null;
  }
  if (facts.solidity === 'solid')
    notify(`${materialLabel(material)} has no holes: a picture of it looks like a board.`, 'sheet');
  return material;
}

/** Stands or hangs a thin sheet of the active material on a surface. */
export function placeSheet(at: Vec3, normal: Vec3, { width, height, crosswise }: SheetLook): void {
  const material = materialInHand();
  if (!material) return;
  useEditor.getState().run(
    call('brush.sheet', {
      material,
      at,
      normal,
      crosswise,
      ...(width > 0 ? { width } : {}),
      ...(height > 0 ? { height } : {}),
    }),
  );
}

/** A thin sheet where the pointer is: on the surface it points at, or on the floor below it. */
export function placeSheetHere(look: SheetLook): void {
  const { at, normal, kind } = lastPane;
  if (!at) return;
  if (kind === 'eye')
    return normal ? placeSheet(at, normal, look) : notify('Point at a wall, a floor or a ceiling in the Eye.');
  placeSheet([at[0], at[1], surfaceUnder(editor().doc, at)], [0, 0, 1], look);
}

/** A second sheet square to each selected one. */
export const crossSelected = () => void editor().run(call('brush.cross', { brushes: [...editor().selection.brushes] }));
