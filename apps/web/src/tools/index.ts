import { useEditor } from '../state/editor.ts';
import { stillThere } from '../state/selection.ts';
import { cutTool } from './cut.ts';
import { drawTool } from './draw.ts';
import { hintTool } from './hint.ts';
import { measureTool } from './measure.ts';
import { paintTool, PICK_UP } from './paint.ts';
import { pickTool } from './pick/tool.ts';
import { placeTool } from './place.ts';
import { reshapeTool } from './reshape.ts';
import { roomTool } from './room.ts';
import { useWiring, WIRE_END } from './wiring.ts';
import type { Tool } from './tool.ts';
import { useCurrent } from '../state/current.ts';

/** The tools in the order of the dock. */
export const TOOLS: readonly Tool[] = [
  pickTool(),
  drawTool(),
  roomTool(),
  cutTool(),
  hintTool(),
  reshapeTool(),
  paintTool(),
  placeTool(),
  measureTool(),
];

/** A tool by its name; the first for one that there is not. */
export const toolNamed = (name: string): Tool => TOOLS.find((tool) => tool.name === name) ?? TOOLS[0]!;

export const activeTool = (): Tool => toolNamed(useCurrent.getState().tool);

/** Held while `I` is down: a click in any pane and with any tool then picks a material up. */
export const pickup = { held: false };

/** The tool that takes the pointer: the chosen one; while its key is held the one that picks materials up; the end of a wire that is begun. */
export function pointerTool(): Tool {
  if (useWiring.getState().thing !== null) return { ...activeTool(), ...WIRE_END };
  return pickup.held ? { ...activeTool(), ...PICK_UP } : activeTool();
}

/** Changes the tool; what the old one was in the middle of is dropped, what is selected stays. */
export function chooseTool(name: string): void {
  if (useCurrent.getState().tool !== name) {
    const { selection } = useEditor.getState();
    activeTool().cancel();
    useEditor.getState().select(stillThere(selection, useEditor.getState().doc));
  }
  useCurrent.setState({ tool: name });
}
