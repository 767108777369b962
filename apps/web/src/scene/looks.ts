import type { ShaderMaterial } from 'three';
import type { Material } from '@yesca/stock';
import type { PicturePages } from './picture-pages.ts';
import { surfaceMaterial, type PageKind, type SurfaceLook } from './surface-shader.ts';

/** How a material is drawn: together with which others, how large its picture is in texels, and in which layer of the page it lies. */
export interface BatchedLook {
  readonly key: string;
  readonly size: readonly [number, number];
  readonly layer: number;
}

/** What has to be known of a material to draw it; `average` stands in for its picture until that is there. */
export type DrawnFacts = Pick<Material, 'width' | 'height' | 'solidity' | 'glow' | 'average'>;

/** Stands in for materials that nobody knows. */
const UNKNOWN = { size: [512, 512], color: '#c3b6c9' } as const;

/** What of materials is drawn together: those on one page that let light through alike. */
const pageKey = (page: number, { solidity, glow }: PageKind): string => `${page} ${solidity}${glow ? ' glows' : ''}`;
const readKey = (key: string): { page: number; kind: PageKind } => {
  const [page, solidity, glow] = key.split(' ') as [string, PageKind['solidity'], string | undefined];
  return { page: Number(page), kind: { solidity, glow: glow !== undefined } };
};

/** The look of a material; its picture is loaded with the first time it is asked for. */
export function lookOf(pages: PicturePages, name: string, facts: DrawnFacts | undefined): BatchedLook {
  if (!facts) {
    const { page, layer } = pages.plain(UNKNOWN.size, UNKNOWN.color);
    return { key: pageKey(page, { solidity: 'solid', glow: false }), size: UNKNOWN.size, layer };
  }
  const size = [facts.width, facts.height] as const;
  // Nothing stands in for what has holes or is seen through.
  const { page, layer } = pages.placeOf(name, size, facts.solidity === 'solid' ? facts.average : null);
  return { key: pageKey(page, { solidity: facts.solidity, glow: !!facts.glow }), size, layer };
}

/** The look of a material whose relief and roughness are seen as well. */
export function lookInRelief(pages: PicturePages, name: string, facts: Material | undefined): BatchedLook {
  const look = lookOf(pages, name, facts);
  if (facts) pages.loadRelief(facts, { page: readKey(look.key).page, layer: look.layer });
  return look;
}

/** The material of a batch of surfaces with one key. */
export function batchMaterial(pages: PicturePages, key: string, look: SurfaceLook): ShaderMaterial {
  const { page, kind } = readKey(key);
  return surfaceMaterial(pages, page, kind, look);
}

/** What lets light through is drawn after what does not. */
export const drawOrder = (key: string): number => (key.includes('seeThrough') ? 1 : 0);

/** Decals are drawn after what they lie on and before what lies behind them is seen through, one after another: each a share of this. */
export const decalOrder = (on: number, place: number, count: number): number =>
  on + 0.1 + (0.8 * place) / Math.max(1, count);

/** The page that a material's picture lies on. */
export const decalPage = ({ key }: BatchedLook): number => readKey(key).page;
