import './shape.css';
import { ActionIcon, Tooltip } from '@mantine/core';
import {
  IconLayoutSidebarLeftCollapse,
  IconLayoutSidebarRightCollapse,
  IconListDetails,
  IconPackage,
  IconAdjustments,
  IconBulb,
  IconMaximize,
  IconMinimize,
  IconBarrierBlock,
  IconWalk,
} from '@tabler/icons-react';
import { useEffect, useState } from 'react';
import { useLocation } from 'react-router';
import type { Finding } from '@yesca/core';
import { Group as PanelGroup, Panel, Separator, useDefaultLayout } from 'react-resizable-panels';
import { lastPane } from '../../state/last-pane.ts';
import { goToFinding } from '../../commands/viewing.ts';
import { useKeys } from '../../palette/useKeys.ts';
import { Choice } from '../../fields/Choice.tsx';
import { FlatView } from '../../panes/FlatView.tsx';
import { EyePane } from '../../panes/EyePane.tsx';
import { SheetPane } from '../../panes/SheetPane.tsx';
import { Lights } from '../../panels/lights/Lights.tsx';
import { Particulars } from '../../panels/Particulars.tsx';
import { Register } from '../../panels/Register.tsx';
import { Stock } from '../../panels/Stock.tsx';
import { ToolDock } from '../../panels/ToolDock.tsx';
import type { PanePointer } from '../../tools/tool.ts';
import { PaneMenu, type MenuAt } from './PaneMenu.tsx';
import { toggleCollisions, useDisplay } from '../../state/display.ts';
import { toggleDrawer, useLayout, type Drawer, type PaneName } from '../../state/layout.ts';
import { notify } from '../../state/notify.ts';
import { keepSight, showSight } from '../../state/sighting.ts';
import { useLitMap } from './useLitMap.ts';

/** A finding that was chosen on the Findings page is shown once the map is open. */
function useFindingToSee(): void {
  const { state } = useLocation();
  const finding = (state as { finding?: Finding } | null)?.finding;
  useEffect(() => {
    if (finding) goToFinding(finding);
  }, [finding]);
}

const DRAWERS = {
  register: { title: 'Register', tip: 'what is in the map — Shift R', icon: IconListDetails, body: <Register /> },
  stock: { title: 'Stock', tip: 'things to use — Shift S', icon: IconPackage, body: <Stock /> },
  lights: { title: 'Lights', tip: 'what each gives, and how strong it is — Alt I', icon: IconBulb, body: <Lights /> },
} as const;

/** Where a map is drawn: drawers left and right, the Sheet and the Eye between, the tools below. */
export function Shape() {
  useKeys();
  useCells();
  useFindingToSee();
  useLitMap();
  const { drawer, particulars, full } = useLayout();
  const set = useLayout.setState;
  const [menu, setMenu] = useState<MenuAt | null>(null);
  const open = (p: PanePointer, x: number, y: number) => setMenu({ p, x, y });
  return (
    <div className="shape">
      <aside className="rail" data-open={drawer !== null || undefined}>
        <div className="rail-tabs">
          {(Object.keys(DRAWERS) as Drawer[]).map((name) => {
            const { title, tip, icon: Icon } = DRAWERS[name];
            return (
              <Tooltip key={name} label={`${title}: ${tip}`} position="right">
                <ActionIcon aria-label={title} aria-pressed={drawer === name} onClick={() => toggleDrawer(name)}>
                  <Icon size={18} stroke={1.5} />
                </ActionIcon>
              </Tooltip>
            );
          })}
        </div>
        {drawer && (
          <div className="drawer">
            <div className="drawer-head">
              {DRAWERS[drawer].title}
              <ActionIcon size="sm" aria-label="Close the drawer" onClick={() => set({ drawer: null })}>
                <IconLayoutSidebarLeftCollapse size={16} stroke={1.5} />
              </ActionIcon>
            </div>
            <div className="drawer-body">{DRAWERS[drawer].body}</div>
          </div>
        )}
      </aside>
      <div className="centre">
        <div className="panes">
          {full ? (
            <Framed name={full}>
              {full === 'eye' ? <EyePane onMenu={open} /> : <SheetPane kind={full} onMenu={open} />}
            </Framed>
          ) : (
            <Panes open={open} />
          )}
        </div>
        <ToolDock />
      </div>
      <aside className="particulars" data-open={particulars || undefined}>
        {particulars ? (
          <>
            <div className="drawer-head">
              Particulars
              <ActionIcon size="sm" aria-label="Close Particulars" onClick={() => set({ particulars: false })}>
                <IconLayoutSidebarRightCollapse size={16} stroke={1.5} />
              </ActionIcon>
            </div>
            <div className="drawer-body" data-testid="particulars">
              <Particulars />
            </div>
          </>
        ) : (
          <Tooltip label="Particulars — Shift P" position="left">
            <ActionIcon m={6} aria-label="Particulars" onClick={() => set({ particulars: true })}>
              <IconAdjustments size={18} stroke={1.5} />
            </ActionIcon>
          </Tooltip>
        )}
      </aside>
      <PaneMenu at={menu} onClose={() => setMenu(null)} />
    </div>
  );
}

/** All three panes, their sizes and order remembered in this browser. */
function Panes({ open }: { open: (p: PanePointer, x: number, y: number) => void }) {
  const swapped = useLayout((s) => s.swapped);
  const flat = useLayout((s) => s.flat);
  const columns = useDefaultLayout({ id: 'yesca-columns', storage: localStorage });
  const rows = useDefaultLayout({ id: 'yesca-rows', storage: localStorage });
  const plan = (
    <Panel key="plan" id="plan" minSize="15%" defaultSize="62%">
      <Framed name="plan">
        <SheetPane kind="plan" onMenu={open} />
      </Framed>
    </Panel>
  );
  const section = (
    <Panel key="section" id="section" minSize="15%" defaultSize="38%">
      {flat ? (
        <FlatView />
      ) : (
        <Framed name="section">
          <SheetPane kind="section" onMenu={open} />
        </Framed>
      )}
    </Panel>
  );
  const [upper, lower] = swapped.sheet ? [section, plan] : [plan, section];
  const sheet = (
    <Panel key="sheet" id="sheet" minSize="20%" defaultSize="50%">
      <PanelGroup orientation="vertical" {...rows}>
        {upper}
        <Separator className="divider divider-h" aria-label="Between Plan and Section: arrows move it" />
        {lower}
      </PanelGroup>
    </Panel>
  );
  const eye = (
    <Panel key="eye" id="eye" minSize="20%" defaultSize="50%">
      <Framed name="eye">
        <EyePane onMenu={open} />
      </Framed>
    </Panel>
  );
  const [left, right] = swapped.eye ? [eye, sheet] : [sheet, eye];
  return (
    <PanelGroup orientation="horizontal" {...columns}>
      {left}
      <Separator className="divider divider-v" aria-label="Between the Sheet and the Eye: arrows move it" />
      {right}
    </PanelGroup>
  );
}

/** While the Eye shows cells they are worked out from the map as it is. */
function useCells(): void {
  const wanted = useDisplay((s) => s.eyeMode === 'cells');
  useEffect(() => {
    if (!wanted) return;
    const stop = keepSight(
      ({ state }) => state === 'open' && notify('The map is open: its cells are shown once it is closed.', 'cells'),
    );
    return () => {
      stop();
      showSight(null);
    };
  }, [wanted]);
}

/** A pane with its corner controls. */
function Framed({ name, children }: { name: PaneName; children: React.ReactNode }) {
  const full = useLayout((s) => s.full);
  const { collisions, eyeMode, walking } = useDisplay();
  return (
    <div className="framed" onPointerEnter={() => (lastPane.kind = name)}>
      {children}
      <div className="framed-tools">
        {name === 'eye' && (
          <Choice
            label="Eye mode"
            tip="How the Eye shows surfaces: as clay, textured (T changes), with the light of the map (S), with the grid of texels (Alt T), coloured by density, or with the cells that visibility goes by"
            value={eyeMode}
            options={[
              ['clay', 'Clay'],
              ['textured', 'Textured'],
              ['lit', 'Lit'],
              ['texels', 'Texels'],
              ['density', 'Density'],
              ['cells', 'Cells'],
            ]}
            onChange={(v) => useDisplay.setState({ eyeMode: v })}
          />
        )}
        {name === 'eye' && (
          <Tooltip label="Show what players run into: brushes, clip, and props as they collide — Alt P">
            <ActionIcon
              className="framed-button"
              aria-label="What players run into"
              aria-pressed={collisions}
              onClick={toggleCollisions}
            >
              <IconBarrierBlock size={15} stroke={1.5} />
            </ActionIcon>
          </Tooltip>
        )}
        {name === 'eye' && (
          <Tooltip label="Walk instead of flying: hold the right button, W A S D, Space jumps, C crouches — K">
            <ActionIcon
              className="framed-button"
              aria-label="Walk in the Eye"
              aria-pressed={walking}
              onClick={() => useDisplay.setState({ walking: !walking })}
            >
              <IconWalk size={15} stroke={1.5} />
            </ActionIcon>
          </Tooltip>
        )}
        <Tooltip label={full ? 'Show all panes — Ctrl Enter' : 'Fill the centre with this pane — Ctrl Enter'}>
          <ActionIcon
            className="framed-button"
            aria-label={full ? 'Show all panes' : `Fill the centre with the ${name}`}
            onClick={() => useLayout.setState({ full: full ? null : name })}
          >
            {full ? <IconMinimize size={15} stroke={1.5} /> : <IconMaximize size={15} stroke={1.5} />}
          </ActionIcon>
        </Tooltip>
      </div>
    </div>
  );
}
