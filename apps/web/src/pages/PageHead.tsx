import './page-head.css';
import { Group, Text, Title } from '@mantine/core';
import type { ReactNode } from 'react';
import { HomeMark } from './HomeMark.tsx';
import { ThemeSwitch } from './ThemeSwitch.tsx';

/** The head of a page that belongs to no map: what it is, what it shows, and what can be done on it. */
export function PageHead({ title, about, children }: { title: string; about?: string; children: ReactNode }) {
  return (
    <header className="page-head">
      <Group gap={12} align="baseline">
        <HomeMark />
        <Title order={1} size="h4">
          {title}
        </Title>
        <Text className="quiet">{about}</Text>
      </Group>
      <Group gap={8}>
        {children}
        <ThemeSwitch />
      </Group>
    </header>
  );
}
