import { useEditor } from '../../state/editor.ts';
import { openDialog } from '../../state/dialogs.ts';
import { snapHere } from '../../geometry/snap.ts';
import { lastPane } from '../../state/last-pane.ts';
import { followTrail } from '../../commands/follow.ts';
import { buildAndPlay, playFromHere } from '../../commands/playing.ts';
import { holdMeter } from '../../commands/lights.ts';
import {
  cameraToPointer,
  frameAll,
  goToLeak,
  goToSpawn,
  moveStorey,
  rememberView,
  sectionThroughSelection,
  turnSection,
} from '../../commands/viewing.ts';
import { useCurrent } from '../../state/current.ts';
import { toggleCollisions, toggleEyeMode, useDisplay } from '../../state/display.ts';
import { pinCamera } from '../../state/sight.ts';
import { toggleDrawer, useLayout } from '../../state/layout.ts';
import { useWork } from '../../state/work.ts';
import { changeGrid } from '../../commands/grid.ts';
import type { Command } from '../command.ts';

const editor = () => useEditor.getState();

/** What is shown, and how. */
export const VIEW_COMMANDS: readonly Command[] = [
  { id: 'view.frame', group: 'View', label: 'Frame the selection or the map', keys: 'f', run: frameAll },
  { id: 'view.home', group: 'View', label: 'Eye: stand at the spawn', keys: 'home', run: goToSpawn },
  { id: 'view.camera', group: 'View', label: 'Eye: camera to pointer', keys: 'z', run: cameraToPointer },
  {
    id: 'view.sectionFlip',
    group: 'View',
    label: 'Section: look the other way',
    keys: 'alt+s',
    run: () => turnSection(180),
  },
  {
    id: 'view.sectionSelection',
    group: 'View',
    label: 'Section through the selection',
    keys: 'alt+c',
    run: sectionThroughSelection,
  },
  {
    id: 'view.sectionTurn',
    group: 'View',
    label: 'Section: turn a quarter',
    keys: 'alt+d',
    run: () => turnSection(90),
  },
  {
    id: 'view.figure',
    group: 'View',
    label: 'Player figure and guides',
    keys: 'shift+f',
    run: () => useDisplay.setState({ figure: !useDisplay.getState().figure }),
  },
  {
    id: 'view.crouch',
    group: 'View',
    label: 'Player figure crouches',
    run: () => useDisplay.setState({ figure: true, crouching: !useDisplay.getState().crouching }),
  },
  {
    id: 'play.build',
    group: 'View',
    label: 'Build and play, with the preset used last',
    keys: 'mod+b',
    run: buildAndPlay,
  },
  {
    id: 'play.here',
    group: 'View',
    label: 'Play the last build from the pointer',
    keys: 'shift+k',
    run: () => playFromHere(),
  },
  {
    id: 'play.buildHere',
    group: 'View',
    label: 'Build and play from the pointer',
    keys: 'mod+shift+b',
    run: () => playFromHere(true),
  },
  { id: 'view.trail', group: 'View', label: 'Fly along the trail of the leak in the Eye', run: () => followTrail() },
  { id: 'view.leak', group: 'View', label: 'Go to the hole the map leaks through', run: goToLeak },
  {
    id: 'view.reaches',
    group: 'View',
    label: 'Reach of all lights, or of the selected ones',
    keys: 'alt+r',
    run: () => useDisplay.setState({ reaches: !useDisplay.getState().reaches }),
  },
  {
    id: 'view.save',
    group: 'View',
    label: 'Save this view',
    keys: 'mod+shift+s',
    run: () => rememberView(`View ${editor().doc.views.size + 1}`),
  },
  {
    id: 'view.pivot',
    group: 'View',
    label: 'Turn about the middle again',
    run: () => useCurrent.setState({ pivot: null }),
  },
  {
    id: 'view.pivotHere',
    group: 'View',
    label: 'Turn about the pointer',
    keys: 'shift+t',
    run: () => {
      if (lastPane.at) useCurrent.setState({ pivot: snapHere(lastPane.at) });
    },
  },
  {
    id: 'view.things',
    group: 'View',
    label: 'Things shown or hidden',
    run: () => useDisplay.setState({ hideThings: !useDisplay.getState().hideThings }),
  },
  {
    id: 'view.mode',
    group: 'View',
    label: 'Eye: clay or textured',
    keys: 't',
    run: () => toggleEyeMode('clay'),
  },
  {
    id: 'view.texels',
    group: 'View',
    label: 'Eye: grid of texels',
    keys: 'alt+t',
    run: () => toggleEyeMode('texels'),
  },
  {
    id: 'view.lit',
    group: 'View',
    label: 'Eye: the light of the map',
    keys: 's',
    run: () => toggleEyeMode('lit'),
  },
  {
    id: 'view.density',
    group: 'View',
    label: 'Eye: density of textures',
    run: () => toggleEyeMode('density'),
  },
  {
    id: 'view.collisions',
    group: 'View',
    label: 'Eye: what players run into',
    keys: 'alt+p',
    run: toggleCollisions,
  },
  { id: 'view.cells', group: 'View', label: 'Eye: cells of visibility', run: () => toggleEyeMode('cells') },
  {
    id: 'view.seenFromHere',
    group: 'View',
    label: 'Eye: what is seen from here, among its cells',
    run: () => {
      pinCamera();
      if (useDisplay.getState().eyeMode !== 'cells') toggleEyeMode('cells');
    },
  },
  {
    id: 'view.walk',
    group: 'View',
    label: 'Eye: walk or fly',
    keys: 'k',
    run: () => useDisplay.setState({ walking: !useDisplay.getState().walking }),
  },
  {
    id: 'view.snap',
    group: 'View',
    label: 'Snap to grid on or off',
    keys: 'g',
    run: () => useWork.setState({ snap: !useWork.getState().snap }),
  },
  { id: 'view.finer', group: 'View', label: 'Finer grid', keys: 'shift+g', run: () => changeGrid(-1) },
  { id: 'view.coarser', group: 'View', label: 'Coarser grid', keys: 'alt+g', run: () => changeGrid(1) },
  {
    id: 'view.full',
    group: 'View',
    label: 'Fill the centre with one pane, or show all',
    keys: 'mod+enter',
    run: () => useLayout.setState({ full: useLayout.getState().full ? null : lastPane.kind }),
  },
  {
    id: 'view.swapEye',
    group: 'View',
    label: 'Swap the Sheet and the Eye',
    run: () =>
      useLayout.setState({ swapped: { ...useLayout.getState().swapped, eye: !useLayout.getState().swapped.eye } }),
  },
  {
    id: 'view.swapSheet',
    group: 'View',
    label: 'Swap Plan and Section',
    run: () =>
      useLayout.setState({ swapped: { ...useLayout.getState().swapped, sheet: !useLayout.getState().swapped.sheet } }),
  },
  {
    id: 'view.drawing',
    group: 'View',
    label: 'Save the Plan or Section as a drawing (SVG)',
    run: () => openDialog('drawing'),
  },
  { id: 'view.revisions', group: 'View', label: 'Revisions: compare and restore', run: () => openDialog('revisions') },
  {
    id: 'view.register',
    group: 'View',
    label: 'Register',
    keys: 'shift+r',
    run: () => toggleDrawer('register'),
  },
  {
    id: 'view.stock',
    group: 'View',
    label: 'Stock',
    keys: 'shift+s',
    run: () => toggleDrawer('stock'),
  },
  {
    id: 'view.meter',
    group: 'View',
    label: 'Light meter: stay at the pointer',
    keys: 'alt+k',
    run: holdMeter,
  },
  {
    id: 'view.lights',
    group: 'View',
    label: 'Lights: what each gives',
    keys: 'alt+i',
    run: () => toggleDrawer('lights'),
  },
  {
    id: 'view.particulars',
    group: 'View',
    label: 'Particulars',
    keys: 'shift+p',
    run: () => useLayout.setState({ particulars: !useLayout.getState().particulars }),
  },
  { id: 'view.levelUp', group: 'View', label: 'Storey up', keys: 'pageup', run: () => moveStorey(1) },
  { id: 'view.levelDown', group: 'View', label: 'Storey down', keys: 'pagedown', run: () => moveStorey(-1) },
];
