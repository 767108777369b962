import { ActionIcon, Tooltip, useMantineColorScheme } from '@mantine/core';
import { IconMoon, IconSun } from '@tabler/icons-react';

/** Paper by day, Night by choice. */
export function ThemeSwitch() {
  const { colorScheme, setColorScheme } = useMantineColorScheme();
  const night = colorScheme === 'dark';
  return (
    <Tooltip label={night ? 'Paper theme' : 'Night theme'}>
      <ActionIcon
        aria-label={night ? 'Paper theme' : 'Night theme'}
        onClick={() => setColorScheme(night ? 'light' : 'dark')}
      >
        {night ? <IconSun size={17} stroke={1.5} /> : <IconMoon size={17} stroke={1.5} />}
      </ActionIcon>
    </Tooltip>
  );
}
