import type { ComponentType } from 'react';
import type { StoreApi } from 'zustand';
import { dot, rayPlane, type MapDocument, type ParamSpecs, type ParamValue, type Plane, type Vec3 } from '@yesca/core';
import { readLength } from '../fields/arithmetic.ts';
import type { SheetHit } from '../geometry/sheet-geometry.ts';
import type { SheetView } from '../geometry/projection.ts';
import { useEditor } from '../state/editor.ts';
import type { Overlay } from '../state/overlay.ts';
import type { Watched } from '../state/watched.ts';
import type { Selection } from '../state/selection.ts';

/** A pointer over a pane, in world terms. */
export interface PanePointer {
  readonly pane: 'plan' | 'section' | 'eye';
  /** The point meant: under the pointer, at the pane's working depth (drawings) or on the surface hit (Eye). */
  readonly raw: Vec3;
  readonly snapped: Vec3;
  /** What lies under the pointer, front to back. */
  readonly hits: readonly SheetHit[];
  /** The surface's outward direction where the Eye's ray met one. */
  readonly normal?: Vec3;
  /** The line of sight through the pointer, in Eye. */
  readonly ray?: { readonly from: Vec3; readonly towards: Vec3 };
  /** The drawing's view; the Eye has none. */
  readonly view?: SheetView;
  readonly x: number;
  readonly y: number;
  readonly shift: boolean;
  readonly ctrl: boolean;
  readonly alt: boolean;
}

/** Some of what can be set on a tool, as the one panel of parameters shows it. */
export interface OptionGroup {
  /** What the group changes with. */
  readonly watch: readonly Watched[];
  readonly now: () => { readonly specs: ParamSpecs; readonly values: Readonly<Record<string, ParamValue | undefined>> };
  readonly put: (key: string, value: ParamValue) => void;
  /** One over the other: what a selection adds must not move the panes. */
  readonly stacked?: boolean;
  /** Whether it matters for what is selected. Absent: always. */
  readonly when?: (selection: Selection) => boolean;
}

/** Options that lie in one store under the names of their specs. */
export const optionsIn = <T extends object>(
  store: StoreApi<T>,
  specs: { readonly [K in keyof T]?: ParamSpecs[string] },
  when?: OptionGroup['when'],
): OptionGroup => ({
  watch: [store],
  now: () => ({ specs: specs as ParamSpecs, values: store.getState() as Readonly<Record<string, ParamValue>> }),
  put: (key, value) => store.setState({ [key]: value } as Partial<T>),
  ...(when ? { when } : {}),
});

/** What a tool shows for a document and a selection besides the map: in the view of a drawing, or without one in the Eye. */
export type Shows = (doc: MapDocument, selection: Selection, view?: SheetView) => Overlay;

/**
 * A tool: one object with states of its own, which previews with a draft document and commits one command. What it is called,
 * what can be set on it and what it shows stand with it: the dock, the keys, the panes and the palette are made from the list.
 */
export interface Tool {
  readonly name: string;
  readonly label: string;
  /** How it is used, in a sentence or two. */
  readonly hint: string;
  readonly key: string;
  readonly icon: ComponentType<{ size?: number; stroke?: number }>;
  readonly options: readonly OptionGroup[];
  /** What it shows while it is chosen, gesture or not; a gesture adds to it. */
  readonly shows?: Shows;
  /** What that changes with, besides the document and the selection. */
  readonly watch?: readonly Watched[];
  readonly down: (p: PanePointer) => void;
  readonly move: (p: PanePointer) => void;
  readonly up: (p: PanePointer) => void;
  /** Esc: drops the gesture. Gives false when there was none. */
  readonly cancel: () => boolean;
  /** Enter: commits what is shown. Gives false when there was nothing. */
  readonly commit: () => boolean;
  /** Begins at a place, without a pointer, what then takes typed numbers. Absent: nothing of this tool does. */
  readonly start?: (p: PanePointer) => void;
  /** Numbers typed during a gesture. Gives false when no gesture takes them. */
  readonly type?: (text: string) => boolean;
  readonly cursor: (p: PanePointer) => string;
}

export const samePixel = (a: { x: number; y: number }, b: { x: number; y: number }, within = 4): boolean =>
  Math.hypot(a.x - b.x, a.y - b.y) <= within;

/** Reads sizes typed in a gesture: `600 400 272`, each an expression of its own. */
export const typedSizes = (text: string, read: (part: string) => number | null): (number | null)[] =>
  text
    .trim()
    .split(/\s+/)
    .filter(Boolean)
    .map((part) => read(part));

/** The sizes typed so far, in this map's module. */
export const typedHere = (text: string): (number | null)[] =>
  typedSizes(text, (part) => readLength(part, useEditor.getState().doc.settings.module));

/** What has been typed after one more key. */
export const typedOn = (before: string, key: string): string =>
  key === 'Backspace' ? before.slice(0, -1) : before + key;

/** Where the pointer is on a plane: by its line of sight in Eye, else the drawing's own point. Null when it looks away from it. */
export function pointOn(p: PanePointer, plane: Plane): Vec3 | null {
  if (!p.ray) return p.raw;
  const t = rayPlane(p.ray.from, p.ray.towards, plane);
  if (t === null || t > 50_000) return null;
  return [
    p.ray.from[0] + p.ray.towards[0] * t,
    p.ray.from[1] + p.ray.towards[1] * t,
    p.ray.from[2] + p.ray.towards[2] * t,
  ];
}

/** How far a drag has come, freely: in the drawing's plane, or in Eye over the ground (upright with Shift). */
export function dragged(start: PanePointer, now: PanePointer): Vec3 {
  if (!now.ray || !start.ray) return [now.raw[0] - start.raw[0], now.raw[1] - start.raw[1], now.raw[2] - start.raw[2]];
  const { towards } = start.ray;
  const facing: Vec3 = now.shift ? [towards[0], towards[1], 0] : [0, 0, 1];
  const plane: Plane = { normal: facing, distance: dot(facing, start.raw) };
  const at = pointOn(now, plane) ?? start.raw;
  return now.shift ? [0, 0, at[2] - start.raw[2]] : [at[0] - start.raw[0], at[1] - start.raw[1], 0];
}
