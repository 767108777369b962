import './shape.css';
import { ActionIcon, Menu, SegmentedControl, Tooltip } from '@mantine/core';
import {
  IconLayoutSidebarLeftCollapse,
  IconLayoutSidebarRightCollapse,
  IconListDetails,
  IconPackage,
  IconAdjustments,
  IconMaximize,
  IconMinimize,
} from '@tabler/icons-react';
import { useState } from 'react';
import { Group as PanelGroup, Panel, Separator } from 'react-resizable-panels';
import { placeEntity } from '@yesca/core';
import { lastPane } from '../../commands/commands.ts';
import { useKeys } from '../../commands/useKeys.ts';
import { EyePane } from '../../panes/EyePane.tsx';
import { SheetPane } from '../../panes/SheetPane.tsx';
import { Particulars } from '../../panels/Particulars.tsx';
import { Register } from '../../panels/Register.tsx';
import { Stock } from '../../panels/Stock.tsx';
import { ToolDock } from '../../panels/ToolDock.tsx';
import { useEditor } from '../../state/editor.ts';
import { selectOnly } from '../../state/selection.ts';
import { useEyeRequest, useView, type PaneName } from '../../state/view.ts';
import { surfaceUnder } from '../../tools/surface-under.ts';
import type { PanePointer } from '../../tools/tool.ts';

interface MenuAt {
  readonly p: PanePointer;
  readonly x: number;
  readonly y: number;
}

/** Where a map is drawn: drawers left and right, the Sheet and the Eye between, the tools below. */
export function Shape() {
  useKeys();
  const { drawer, particulars, full, set } = useView();
  const [menu, setMenu] = useState<MenuAt | null>(null);
  const open = (p: PanePointer, x: number, y: number) => setMenu({ p, x, y });
  return (
    <div className="shape">
      <aside className="rail" data-open={drawer !== null || undefined}>
        <div className="rail-tabs">
          <Tooltip label="Register: what is in the map — Shift R" position="right">
            <ActionIcon
              aria-label="Register"
              aria-pressed={drawer === 'register'}
              onClick={() => set({ drawer: drawer === 'register' ? null : 'register' })}
            >
              <IconListDetails size={18} stroke={1.5} />
            </ActionIcon>
          </Tooltip>
          <Tooltip label="Stock: things to use — Shift S" position="right">
            <ActionIcon
              aria-label="Stock"
              aria-pressed={drawer === 'stock'}
              onClick={() => set({ drawer: drawer === 'stock' ? null : 'stock' })}
            >
              <IconPackage size={18} stroke={1.5} />
            </ActionIcon>
          </Tooltip>
        </div>
        {drawer && (
          <div className="drawer">
            <div className="drawer-head">
              {drawer === 'register' ? 'Register' : 'Stock'}
              <ActionIcon size="sm" aria-label="Close the drawer" onClick={() => set({ drawer: null })}>
                <IconLayoutSidebarLeftCollapse size={16} stroke={1.5} />
              </ActionIcon>
            </div>
            <div className="drawer-body">{drawer === 'register' ? <Register /> : <Stock />}</div>
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
            <PanelGroup orientation="horizontal">
              <Panel minSize="20%" defaultSize="50%">
                <PanelGroup orientation="vertical">
                  <Panel minSize="15%" defaultSize="62%">
                    <Framed name="plan">
                      <SheetPane kind="plan" onMenu={open} />
                    </Framed>
                  </Panel>
                  <Separator className="divider divider-h" />
                  <Panel minSize="15%" defaultSize="38%">
                    <Framed name="section">
                      <SheetPane kind="section" onMenu={open} />
                    </Framed>
                  </Panel>
                </PanelGroup>
              </Panel>
              <Separator className="divider divider-v" />
              <Panel minSize="20%" defaultSize="50%">
                <Framed name="eye">
                  <EyePane onMenu={open} />
                </Framed>
              </Panel>
            </PanelGroup>
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

/** A pane with its corner controls. */
function Framed({ name, children }: { name: PaneName; children: React.ReactNode }) {
  const { full, eyeMode, set } = useView();
  return (
    <div className="framed" onPointerEnter={() => (lastPane.kind = name)}>
      {children}
      <div className="framed-tools">
        {name === 'eye' && (
          <Tooltip label="How the Eye shows surfaces — T">
            <SegmentedControl
              size="xs"
              aria-label="Eye mode"
              value={eyeMode}
              onChange={(v) => set({ eyeMode: v as 'clay' })}
              data={[
                { value: 'clay', label: 'Clay' },
                { value: 'textured', label: 'Textured' },
              ]}
            />
          </Tooltip>
        )}
        <Tooltip label={full ? 'Show all panes — Ctrl Enter' : 'Fill the centre with this pane — Ctrl Enter'}>
          <ActionIcon
            className="framed-button"
            aria-label={full ? 'Show all panes' : `Fill the centre with the ${name}`}
            onClick={() => set({ full: full ? null : name })}
          >
            {full ? <IconMinimize size={15} stroke={1.5} /> : <IconMaximize size={15} stroke={1.5} />}
          </ActionIcon>
        </Tooltip>
      </div>
    </div>
  );
}

/** What fits what is under the pointer. */
function PaneMenu({ at, onClose }: { at: MenuAt | null; onClose: () => void }) {
  const { run, select, doc } = useEditor.getState();
  if (!at) return null;
  const { p } = at;
  const thing = p.hits[0]?.thing;
  const brushHit = p.hits.find((h) => h.thing.type === 'brush');
  const face = brushHit && brushHit.face >= 0 ? doc.brushes.get(brushHit.thing.id)?.faces[brushHit.face] : undefined;
  const [x, y] = p.snapped;
  const floor = p.pane === 'eye' ? p.raw[2] : surfaceUnder(doc, p.snapped);
  const place = (kind: string, up: number) => () =>
    void run(`Place ${kind}`, (d) => placeEntity(d, kind, [Math.round(x), Math.round(y), Math.round(floor + up)]));
  return (
    <Menu opened onClose={onClose} position="bottom-start" shadow="md">
      <Menu.Target>
        <span style={{ position: 'fixed', left: at.x, top: at.y }} />
      </Menu.Target>
      <Menu.Dropdown>
        {thing && <Menu.Item onClick={() => select(selectOnly([thing]))}>Select this {thing.type}</Menu.Item>}
        {brushHit && thing?.type !== 'brush' && (
          <Menu.Item onClick={() => select(selectOnly([brushHit.thing]))}>Select only this brush</Menu.Item>
        )}
        {face && (
          <Menu.Item
            onClick={() => select({ ...selectOnly([]), faces: [{ brush: brushHit!.thing.id, face: face.id }] })}
          >
            Select this face
          </Menu.Item>
        )}
        {face && (
          <Menu.Item onClick={() => useView.getState().set({ material: face.material })}>
            Pick up its material
          </Menu.Item>
        )}
        {(thing || face) && <Menu.Divider />}
        <Menu.Item onClick={place('spawn', 0)}>Place a spawn here</Menu.Item>
        <Menu.Item onClick={place('pointLight', 200)}>Place a point light here</Menu.Item>
        <Menu.Item onClick={() => useEyeRequest.getState().look([x, y, floor + 164], true)}>Camera here</Menu.Item>
      </Menu.Dropdown>
    </Menu>
  );
}
