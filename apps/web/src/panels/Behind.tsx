import type { ReactNode } from 'react';

/** A panel that follows the map when there is time; while it is behind, it says so to who looks at the page from outside. */
export function Behind({ when, children }: { when: boolean; children: ReactNode }) {
  return (
    <div style={{ display: 'contents' }} data-behind={when || undefined}>
      {children}
    </div>
  );
}
