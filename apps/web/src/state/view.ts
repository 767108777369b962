import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import { useShallow } from 'zustand/react/shallow';
import {
  ENTITY_KINDS,
  shapeParams,
  type Role,
  type SectionLine,
  type ShapeKind,
  type ShapeValue,
  type Vec3,
} from '@yesca/core';

export type ToolName = 'pick' | 'draw' | 'room' | 'cut' | 'reshape' | 'paint' | 'place' | 'measure';
/** How the Eye shows surfaces: as clay, textured, textured with the texels' grid, or coloured by density. */
export const EYE_MODES = ['clay', 'textured', 'texels', 'density'] as const;
export type EyeMode = (typeof EYE_MODES)[number];
/** What a click of Paint covers. */
export const PAINT_MODES = ['face', 'brush', 'flush', 'flow', 'both'] as const;
export type PaintMode = (typeof PAINT_MODES)[number];

export type PaneName = 'plan' | 'section' | 'eye';

/** How the map is looked at and what the tools are set to. Kept in this browser. */
export interface ViewState {
  readonly tool: ToolName;
  readonly snap: boolean;
  /** Centre of the Sheet, cm; Plan and Section share x. */
  readonly centre: Vec3;
  /** Pixels a cm, shared by Plan and Section. */
  readonly zoom: number;
  /** Height of the plan's cut and of the level new things stand on. */
  readonly cutHeight: number;
  readonly level: number;
  /** Where the Section cuts and which way it looks. */
  readonly section: SectionLine;
  readonly eyeMode: EyeMode;
  /** The Eye walks with the player's body instead of flying. */
  readonly walking: boolean;
  /** Which pane fills the centre; null shows all three. */
  readonly full: PaneName | null;
  readonly drawer: 'register' | 'stock' | null;
  readonly particulars: boolean;
  readonly shape: ShapeKind;
  /** What each shape was last set to. */
  readonly shapes: Readonly<Partial<Record<ShapeKind, Readonly<Record<string, ShapeValue>>>>>;
  readonly drawRole: Role;
  /** Resize by scaling the shape, or by moving only the faces on that side. */
  readonly resize: 'scale' | 'slopes';
  /** The transform box lies in the world's axes, or on the Plan in those of the first brush. */
  readonly axes: 'world' | 'own';
  /** Angle step of turns by hand, degrees. */
  readonly angleStep: number;
  /** What Reshape's handles are. */
  readonly handles: 'vertices' | 'edges' | 'faces';
  /** Reshape splits a brush that would not stay convex instead of swallowing the corner. */
  readonly splitConcave: boolean;
  /** How much of a face is left at the far end when it is pulled out: 1 straight, 0 to a point. */
  readonly taper: number;
  /** The point that turns go round; the middle of the selection while there is none. */
  readonly pivot: Vec3 | null;
  readonly cutKeep: 'both' | 'front' | 'back';
  /** What a footprint drawn inside a room becomes. */
  readonly inset: 'platform' | 'pillar' | 'pit' | 'pool';
  readonly insetHeight: number;
  readonly openingKind: 'door' | 'window' | 'arch';
  /** Roles and kinds of entity that are left out of the drawings. */
  readonly hiddenRoles: readonly Role[];
  readonly hideThings: boolean;
  /** The player's figure and the guides for step and jump, in Section and Eye. */
  readonly figure: boolean;
  readonly crouching: boolean;
  /** The Eye on the left; the Section above the Plan. */
  readonly swapped: { readonly eye: boolean; readonly sheet: boolean };
  /** Grid steps are powers of two or decimal. */
  readonly gridSet: 'binary' | 'decimal';
  readonly height: number;
  readonly roomHeight: number;
  readonly wall: number;
  readonly open: boolean;
  readonly material: string;
  readonly paintMode: PaintMode;
  /** Faces that hang together are laid as one sheet. */
  readonly asPiece: boolean;
  /** Where a flow round a column is cut. */
  readonly seam: 'far' | 'left' | 'right';
  /** A flow that closes is stretched to whole repeats. */
  readonly closeFlow: boolean;
  /** How often Fit repeats the picture. */
  readonly repeats: readonly [number, number];
  /** How far the picture's nudges go, texels. */
  readonly texelStep: number;
  /** Nudges of the picture go by texels or by the grid. */
  readonly nudgeBy: 'texels' | 'grid';
  /** The flat view of the selected faces is open. */
  readonly flat: boolean;
  /** Place puts a thing, or a thin sheet of the active material. */
  readonly placing: 'thing' | 'sheet';
  readonly crosswise: boolean;
  /** Width and height of a thin sheet, cm; 0 is the picture's natural size. */
  readonly sheetSize: readonly [number, number];
  readonly entityKind: string;
  readonly carry: boolean;
  /** Rooms take along what stands in them, and the rooms that they share walls with. */
  readonly contents: boolean;
  readonly neighbours: boolean;
  /** The preset that was built last, and the spawn that play begins at (the first when null). */
  readonly preset: 'sketch' | 'review' | 'final';
  readonly playSpawn: string | null;
  /** What faces that a cut makes show: what the brush shows, or the active material. */
  readonly capMaterial: 'brush' | 'active';
  /** Whether all lights show how far they reach, or the selected ones only. */
  readonly reaches: boolean;
  set: (change: Partial<Omit<ViewState, 'set'>>) => void;
}

export const useView = create<ViewState>()(
  persist(
    (set) => ({
      tool: 'pick',
      snap: true,
      centre: [0, 0, 130],
      zoom: 0.5,
      cutHeight: 110,
      level: 0,
      section: { at: [0, 0], looks: 90 },
      eyeMode: 'textured',
      walking: false,
      full: null,
      drawer: 'register',
      particulars: true,
      shape: 'box',
      shapes: {},
      drawRole: 'detail',
      resize: 'scale',
      axes: 'world',
      angleStep: 15,
      handles: 'vertices',
      splitConcave: false,
      taper: 1,
      pivot: null,
      cutKeep: 'both',
      inset: 'platform',
      insetHeight: 32,
      openingKind: 'door',
      hiddenRoles: [],
      hideThings: false,
      figure: false,
      crouching: false,
      swapped: { eye: false, sheet: false },
      gridSet: 'binary',
      height: 128,
      roomHeight: 272,
      wall: 16,
      open: false,
      material: 'limewash',
      paintMode: 'face',
      asPiece: false,
      seam: 'far',
      closeFlow: false,
      repeats: [1, 1],
      texelStep: 8,
      nudgeBy: 'texels',
      flat: false,
      placing: 'thing',
      crosswise: false,
      sheetSize: [0, 0],
      entityKind: ENTITY_KINDS[0]!.kind,
      carry: true,
      contents: true,
      neighbours: false,
      preset: 'sketch',
      playSpawn: null,
      capMaterial: 'brush',
      reaches: false,
      set: (change) => set(change),
    }),
    {
      name: 'yesca-view',
      partialize: ({
        snap,
        eyeMode,
        drawer,
        particulars,
        roomHeight,
        wall,
        material,
        carry,
        contents,
        neighbours,
        preset,
        capMaterial,
        reaches,
        shapes,
        drawRole,
        resize,
        angleStep,
        insetHeight,
        figure,
        gridSet,
        swapped,
      }) => ({
        snap,
        eyeMode,
        drawer,
        particulars,
        roomHeight,
        wall,
        material,
        carry,
        contents,
        neighbours,
        preset,
        capMaterial,
        reaches,
        shapes,
        drawRole,
        resize,
        angleStep,
        insetHeight,
        figure,
        gridSet,
        swapped,
      }),
    },
  ),
);

/** The settings of the view and the tools without where the paper lies: sliding and zooming leave those who use this alone. */
export const useSettings = (): Omit<ViewState, 'centre' | 'zoom' | 'section'> =>
  useView(useShallow(({ centre: _c, zoom: _z, section: _s, ...settings }) => settings));

/** What the active shape is set to. */
export const activeShape = ({ shape, shapes }: Pick<ViewState, 'shape' | 'shapes'>): Record<string, ShapeValue> =>
  shapeParams(shape, shapes[shape] ?? {});

/** Asks the Eye to move its camera: to look at a point, to stand somewhere, or to take up a saved view. */
export const useEyeRequest = create<{
  request: { at: Vec3; stand: boolean; turn?: number; towards?: Vec3; count: number } | null;
  look: (at: Vec3, stand?: boolean, turn?: number) => void;
  face: (at: Vec3, towards: Vec3) => void;
}>()((set, get) => {
  const count = () => (get().request?.count ?? 0) + 1;
  return {
    request: null,
    look: (at, stand = false, turn) => set({ request: { at, stand, turn, count: count() } }),
    face: (at, towards) => set({ request: { at, stand: true, towards, count: count() } }),
  };
});

/** Where the Eye's camera last was, to come back to after Play. */
export const eyeMemory: { mapId: string | null; at: Vec3; target: Vec3 } = {
  mapId: null,
  at: [0, 0, 0],
  target: [1, 0, 0],
};

/** What fresh faces of cuts show: the active material, or (undefined) what their brush shows. */
export const freshMaterial = (): string | undefined => {
  const { capMaterial, material } = useView.getState();
  return capMaterial === 'active' ? material : undefined;
};

/** The thing under the pointer. */
export const usePointed = create<{ id: string | null }>()(() => ({ id: null }));
export const setPointed = (id: string | null): void => {
  if (usePointed.getState().id !== id) usePointed.setState({ id });
};
