import { MantineProvider } from '@mantine/core';
import { ModalsProvider } from '@mantine/modals';
import { Notifications } from '@mantine/notifications';
import { configure, render } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { ReactElement } from 'react';
import { MemoryRouter } from 'react-router';

// What the tests of panels share: a page in jsdom, which lays nothing out.

// Nothing is laid out here, so nothing is hidden by it either: asking each element whether it is takes half of the time.
configure({ defaultHidden: true });

/** How wide and high everything is, pixels. */
const SIDE = 600;

/** What jsdom lacks and the interface's library asks for. */
function fillIn(): void {
  window.matchMedia ??= (media) =>
    ({ matches: false, media, addEventListener: () => undefined, removeEventListener: () => undefined }) as never;
  globalThis.ResizeObserver = class {
    constructor(private readonly tell: ResizeObserverCallback) {}
    observe = (target: Element) =>
      this.tell([{ target, contentRect: { width: SIDE, height: SIDE } } as ResizeObserverEntry], this as never);
    unobserve = () => undefined;
    disconnect = () => undefined;
  };
  // A room for lists that draw only what is in sight.
  for (const side of ['clientWidth', 'clientHeight'])
    Object.defineProperty(Element.prototype, side, { configurable: true, get: () => SIDE });
  Object.defineProperty(document, 'fonts', { configurable: true, value: new EventTarget() });
  Element.prototype.scrollIntoView ??= () => undefined;
}

/** Shows a part of the interface, and gives what a person does with it. */
export function show(element: ReactElement) {
  fillIn();
  const wrap = (inside: ReactElement) => (
    <MantineProvider env="test">
      <ModalsProvider>
        <Notifications />
        <MemoryRouter>{inside}</MemoryRouter>
      </ModalsProvider>
    </MantineProvider>
  );
  const { rerender } = render(wrap(element));
  return { user: userEvent.setup({ delay: null }), again: (next: ReactElement) => rerender(wrap(next)) };
}
