import { modals } from '@mantine/modals';
import { COMMANDS, keyLabel } from './commands.ts';

const MOUSE: readonly (readonly [string, string])[] = [
  ['Turn the view, fly with W A S D Q E', 'right button in Eye'],
  ['Slide the view', 'middle button, or Space and drag'],
  ['Nearer and farther', 'wheel'],
  ['Pick a single face', 'Alt click'],
  ['Add to or take from the selection', 'Shift or Ctrl click'],
  ['Copy, cut, paste', 'Ctrl C, Ctrl X, Ctrl V'],
  ['Duplicate while moving', 'Alt drag'],
  ['Only what is wholly inside', 'Alt with a marquee'],
  ['Pick up a material (Paint)', 'I held, click'],
  ['Commit or drop a gesture', 'Enter, Esc'],
];

/** Every binding, made from the table the bindings come from. */
export function openShortcuts(): void {
  modals.open({
    title: 'Shortcuts',
    size: 760,
    children: (
      <div className="shortcut-columns">
        {(['Tools', 'View', 'Edit'] as const).map((group) => (
          <section key={group} className="shortcut-group">
            <h3 className="panel-title">{group}</h3>
            {COMMANDS.filter((c) => c.group === group && c.keys).map((c) => (
              <div key={c.id} className="shortcut">
                <span>{c.label}</span>
                <kbd>{keyLabel(c.keys!)}</kbd>
              </div>
            ))}
          </section>
        ))}
        <section className="shortcut-group">
          <h3 className="panel-title">Mouse and gestures</h3>
          {MOUSE.map(([what, how]) => (
            <div key={what} className="shortcut">
              <span>{what}</span>
              <span className="quiet">{how}</span>
            </div>
          ))}
        </section>
      </div>
    ),
  });
}
