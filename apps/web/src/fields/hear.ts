/** Plays a sound that ships once, as a preview. What cannot be played is silent. */
export function hear(name: string): void {
  if (name !== '') void new Audio(`/stock/sounds/${encodeURIComponent(name)}`).play().catch(() => undefined);
}
