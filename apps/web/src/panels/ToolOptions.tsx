import type { ParamSpecs, ParamValue } from '@yesca/core';
import { useEditor } from '../state/editor.ts';
import { useWatched } from '../state/watched.ts';
import type { OptionGroup, Tool } from '../tools/tool.ts';
import { ParamPanel } from './params/ParamPanel.tsx';

/** Where a number may be left out, its first value stands for that it is. */
const leftOut = (specs: ParamSpecs, values: Readonly<Record<string, ParamValue | undefined>>) =>
  Object.fromEntries(
    Object.entries(specs).map(([key, spec]) => {
      const none = spec.type === 'number' && spec.none !== undefined && values[key] === spec.initial;
      return [key, none ? undefined : values[key]];
    }),
  );

function Group({ group }: { group: OptionGroup }) {
  useWatched(group.watch);
  // Not the selection itself: every edit makes another one.
  const matters = useEditor((s) => group.when?.(s.selection) ?? true);
  if (!matters) return null;
  const { specs, values } = group.now();
  const panel = (
    <ParamPanel
      row
      specs={specs}
      values={[leftOut(specs, values)]}
      onChange={(key, value) => group.put(key, value ?? specs[key]!.initial)}
    />
  );
  return group.stacked ? <div className="params-stack">{panel}</div> : panel;
}

/** What can be set on a tool, in the order in which it tells it. */
export function ToolOptions({ tool }: { tool: Tool }) {
  return (
    <div className="tool-options">
      {tool.options.map((group, i) => (
        <Group key={`${tool.name} ${i}`} group={group} />
      ))}
    </div>
  );
}
