import type { PointerEvent, ReactNode } from 'react';

/** What is pressed on a notice is no press on the drawing under it. */
const keep = (event: PointerEvent): void => event.stopPropagation();

/** Words over a pane, with ways on among them. */
export function PaneNotice({ className = '', id, children }: { className?: string; id?: string; children: ReactNode }) {
  return (
    <div
      className={`pane-notice ${className}`}
      role="status"
      data-testid={id}
      onPointerDown={keep}
      onPointerUp={keep}
      onDoubleClick={(event) => event.stopPropagation()}
    >
      {children}
    </div>
  );
}
