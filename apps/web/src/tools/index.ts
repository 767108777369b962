import { useEditor } from '../state/editor.ts';
import { stillThere } from '../state/selection.ts';
import { useView, type ToolName } from '../state/view.ts';
import { cutTool } from './cut.ts';
import { drawTool } from './draw.ts';
import { measureTool } from './measure.ts';
import { paintTool, pickup, pickupTool } from './paint.ts';
import { pickTool } from './pick.ts';
import { placeTool } from './place.ts';
import { reshapeTool } from './reshape.ts';
import { roomTool } from './room.ts';
import type { Tool } from './tool.ts';

export const TOOLS: Readonly<Record<ToolName, Tool>> = {
  pick: pickTool,
  draw: drawTool,
  room: roomTool,
  cut: cutTool,
  reshape: reshapeTool,
  paint: paintTool,
  place: placeTool,
  measure: measureTool,
};

/** The tool that takes the pointer: the chosen one, or for as long as its key is held the one that picks materials up. */
export const pointerTool = (): Tool => (pickup.held ? pickupTool : activeTool());

export const activeTool = (): Tool => TOOLS[useView.getState().tool];

/** Changes the tool; what the old one was in the middle of is dropped, what is selected stays. */
export function chooseTool(name: ToolName): void {
  if (useView.getState().tool !== name) {
    const { selection } = useEditor.getState();
    activeTool().cancel();
    useEditor.getState().select(stillThere(selection, useEditor.getState().doc));
  }
  useView.getState().set({ tool: name });
}
