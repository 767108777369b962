/** What the shop window and the renderer know about a material besides its picture. */
export interface Material {
  readonly name: string;
  readonly label: string;
  readonly tags: readonly string[];
  /** Pixels. */
  readonly width: number;
  readonly height: number;
  /** Texels a cm at natural size. */
  readonly texelsPerCm: number;
  /** Mean colour in sRGB, `#rrggbb`. */
  readonly average: string;
}
