const held = new Set<string>();

if (typeof window !== 'undefined') {
  window.addEventListener('keydown', (event) => held.add(event.code));
  window.addEventListener('keyup', (event) => held.delete(event.code));
  // What is let go in another window is not heard here.
  window.addEventListener('blur', () => held.clear());
}

/** Whether a key is down, by its code. */
export const isHeld = (code: string): boolean => held.has(code);
