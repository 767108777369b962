import { Spotlight, spotlight, type SpotlightActionGroupData } from '@mantine/spotlight';
import { IconSearch } from '@tabler/icons-react';
import { useLocation, useNavigate } from 'react-router';
import { COMMANDS } from './commands.ts';
import { boundKeys, keyLabel } from './keys.ts';

export const openPalette = (): void => spotlight.open();

/** The command palette: everything that can be done, by name. */
export function Palette() {
  const navigate = useNavigate();
  const { pathname } = useLocation();
  const base = pathname.split('/').slice(0, 3).join('/');
  const pages = [
    { id: 'go.shape', label: 'Go to Shape', onClick: () => void navigate(`${base}/shape`) },
    { id: 'go.build', label: 'Go to Build', onClick: () => void navigate(`${base}/build`) },
    { id: 'go.play', label: 'Play the last build', onClick: () => void navigate(`${base}/play`) },
    { id: 'go.shelf', label: 'Back to the Shelf', onClick: () => void navigate('/') },
  ];
  const shaping = pathname.endsWith('/shape');
  const groups = ['Tools', 'Edit', 'Shape', 'Surface', 'Select', 'View'].map((group): SpotlightActionGroupData => ({
    group,
    actions: COMMANDS.filter((c) => c.group === group && shaping).map((c) => ({
      id: c.id,
      label: c.label,
      onClick: c.run,
      rightSection: boundKeys(c) ? <kbd>{keyLabel(boundKeys(c))}</kbd> : undefined,
    })),
  }));
  return (
    <Spotlight
      actions={[...groups.filter((g) => g.actions.length), { group: 'Go', actions: pages }]}
      shortcut="mod + K"
      scrollable
      maxHeight={420}
      highlightQuery
      nothingFound="Nothing is called that."
      searchProps={{ leftSection: <IconSearch size={16} />, placeholder: 'What do you want to do?' }}
    />
  );
}
