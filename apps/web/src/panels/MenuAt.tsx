import { Menu } from '@mantine/core';
import type { ReactNode } from 'react';

/** A menu that opens where the pointer was, pixels of the page. */
export function MenuAt({
  at,
  onClose,
  children,
}: {
  at: { readonly x: number; readonly y: number };
  onClose: () => void;
  children: ReactNode;
}) {
  return (
    <Menu opened onClose={onClose} position="bottom-start" shadow="md">
      <Menu.Target>
        <span style={{ position: 'fixed', left: at.x, top: at.y }} />
      </Menu.Target>
      <Menu.Dropdown>{children}</Menu.Dropdown>
    </Menu>
  );
}
