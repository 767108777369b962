/** `#ffcc88`, `ffcc88`, `#fc8` or `rgb(255, 204, 136)` as the first of them; null for anything else. */
export function readColor(text: string): string | null {
  const t = text.trim().toLowerCase();
  const six = /^#?([0-9a-f]{6})$/.exec(t)?.[1];
  if (six) return `#${six}`;
  const three = /^#?([0-9a-f]{3})$/.exec(t)?.[1];
  if (three) return `#${[...three].map((c) => c + c).join('')}`;
  const rgb = /^rgb\(\s*(\d{1,3})\s*[, ]\s*(\d{1,3})\s*[, ]\s*(\d{1,3})\s*\)$/.exec(t)?.slice(1).map(Number);
  return rgb?.every((c) => c <= 255) ? `#${rgb.map((c) => c.toString(16).padStart(2, '0')).join('')}` : null;
}
