import { call, COMMANDS, doCommand, writeScript } from '../commands/index.ts';
import { emptyMap } from '../map/index.ts';

/** A crate and three copies of it: the second command names what the first one made. */
function example(): string {
  const box = { min: [0, 0, 0], max: [64, 64, 64] } as const;
  const crate = call('brush.draw', { shape: { kind: 'box', box, params: {} }, material: 'oak-plank', role: 'detail' });
  const seed = 'crate';
  const { made } = doCommand(emptyMap('Example'), crate, { materials: () => undefined, seed });
  const row = call('pick.repeat', { picked: { brushes: made!.brushes }, count: 3, step: [96, 0, 0] });
  return writeScript([{ ...crate, seed }, row]).trim();
}

/** A command as a row of the table; where its label depends on the arguments, its name says enough. */
function rowOf([name, { label, args }]: [string, (typeof COMMANDS)[keyof typeof COMMANDS]]): string {
  const list = Object.entries(args).map(([key, { says, optional }]) => `\`${key}${optional ? '?' : ''}\` ${says}`);
  return `| \`${name}\` | ${typeof label === 'string' ? label : ''} | ${list.join('; ').replaceAll('|', '\\|')} |`;
}

/** `docs/commands.md`: every command with its arguments. */
export const commandsDocument = (): string =>
  [
    '# Commands',
    '',
    'Made from `packages/core/src/commands/` by `npm run generate`; a test says when it is stale. Whatever changes a map is one of these commands with its',
    'arguments as data: the tools, panels, keys and menus of the workshop do them, *Copy as commands* in the palette gives the last ones as a file, *Run copied',
    'commands* does such a file, and so does `yesca edit MAP --script COMMANDS.json --out MAP`.',
    '',
    '```json',
    example(),
    '```',
    '',
    'The ids of what a command makes follow from its `seed`, so that later commands can name them; where such an id is taken in a map, another is given, and',
    'later commands mean that one. Lengths in cm, angles in degrees, axes 0 east, 1 north, 2 up. A `?` marks what may be left out. A command that is refused, or',
    'given what it does not take, stops the list with its number and a sentence, and nothing is changed.',
    '',
    '| command | undo calls it | arguments |',
    '|---|---|---|',
    ...Object.entries(COMMANDS).map(rowOf),
    '',
  ].join('\n');
