import { createTheme, type CSSVariablesResolver, type MantineColorsTuple } from '@mantine/core';

const indigo: MantineColorsTuple = [
  '#eceefb',
  '#d5d8f2',
  '#aab0e4',
  '#7d86d5',
  '#5a64c8',
  '#444fc0',
  '#37409c',
  '#2f3787',
  '#272e72',
  '#1f255c',
];
const ember: MantineColorsTuple = [
  '#fdeee6',
  '#f8d6c6',
  '#efab8d',
  '#e67f53',
  '#d95f2c',
  '#c24a1c',
  '#ad3f17',
  '#8f3110',
  '#71260c',
  '#541b07',
];

/** Night's slate, from letters to the deepest ground: what Mantine makes its dark surfaces of. */
const dark: MantineColorsTuple = [
  '#ebe5d7',
  '#cfd2d0',
  '#b3ae9f',
  '#7d8b98',
  '#3b4650',
  '#3b4650',
  '#20272d',
  '#1d2328',
  '#1a2025',
  '#14191d',
];

/** Mantine dressed as an architect's table: paper, ink, small radii, quiet motion. */
export const theme = createTheme({
  fontFamily: "'Archivo Variable', sans-serif",
  fontFamilyMonospace: "'JetBrains Mono Variable', monospace",
  primaryColor: 'indigo',
  primaryShade: { light: 6, dark: 2 },
  colors: { indigo, ember, dark },
  defaultRadius: 3,
  fontSizes: { xs: '11.5px', sm: '12.5px', md: '13.5px', lg: '16px', xl: '20px' },
  headings: { fontFamily: "'Archivo Variable', sans-serif", fontWeight: '620' },
  components: {
    // Under lists that drop down: a tip must not hide what can be chosen.
    Tooltip: { defaultProps: { openDelay: 350, withArrow: true, fz: 'xs', multiline: true, maw: 280, zIndex: 290 } },
    ActionIcon: { defaultProps: { variant: 'subtle', color: 'var(--ink)' } },
    TextInput: { defaultProps: { size: 'xs' } },
    Select: { defaultProps: { size: 'xs' } },
    Button: { defaultProps: { size: 'xs' } },
    Menu: { defaultProps: { shadow: 'sm' } },
    Modal: { defaultProps: { closeButtonProps: { 'aria-label': 'Close' } } },
    Drawer: { defaultProps: { closeButtonProps: { 'aria-label': 'Close' } } },
  },
});

export const cssVariables: CSSVariablesResolver = () => {
  const shared = {
    '--mantine-color-body': 'var(--paper)',
    '--mantine-color-text': 'var(--ink)',
    '--mantine-color-dimmed': 'var(--ink-soft)',
    '--mantine-color-default': 'var(--sheet)',
    '--mantine-color-default-hover': 'var(--sunk)',
    '--mantine-color-default-border': 'var(--rule)',
    '--mantine-color-default-color': 'var(--ink)',
    '--mantine-color-placeholder': 'var(--ink-soft)',
    '--mantine-color-anchor': 'var(--indigo)',
    '--mantine-color-error': 'var(--madder)',
  };
  return { variables: {}, light: shared, dark: shared };
};
