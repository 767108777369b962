import { fixFinding, type Finding } from '../checks/index.ts';
import {
  addLayer,
  addStorey,
  changeLayer,
  changeSettings,
  changeStorey,
  removeLayer,
  removeStorey,
  removeView,
  renameGroup,
  renameMap,
  saveView,
  takeSky,
} from '../edit/index.ts';
import {
  applyChanges,
  COLLECTIONS,
  migrateChanges,
  SETTINGS,
  SKIES,
  type MapChanges,
  type MapSettings,
  type SavedView,
} from '../map/index.ts';
import { a } from './args.ts';
import { command } from './command.ts';

const section = a.record({ at: a.point2, looks: a.number, depth: a.maybe(a.number) });

/** Items put in, put in the place of others, or (null) taken out, as a save sends them. */
const changes = a.as<MapChanges>(
  a.record({
    format: a.maybe(a.whole),
    items: a.list(a.record({ in: a.choice(...COLLECTIONS), id: a.id, item: a.orNone(a.item) })),
    name: a.maybe(a.name),
    settings: a.maybe(a.item),
  }),
);

/** Something found, as `yesca check --json` gives it. */
const finding = a.as<Finding>(
  a.record({
    id: a.text,
    code: a.name,
    severity: a.choice('error', 'warning', 'info'),
    text: a.text,
    at: a.maybe(a.vec3),
    brushes: a.maybe(a.ids),
    entities: a.maybe(a.ids),
    rooms: a.maybe(a.ids),
    openings: a.maybe(a.ids),
    faces: a.maybe(a.faces),
    trail: a.maybe(a.list(a.vec3)),
    hole: a.maybe(a.list(a.vec3)),
  }),
);

/** One setting is named; several are not. */
function settingsLabel({ settings }: { readonly settings: object }): string {
  const [key, ...more] = Object.keys(settings);
  return (more.length === 0 && SETTINGS[key as keyof MapSettings]?.label) || 'Map settings';
}

/** What is done to the map as a whole, and to what it is kept in order by. */
export const mapCommands = {
  'map.rename': command('Rename map', { name: a.name }, (doc, { name }) => renameMap(doc, name)),
  /** A setting that is null is unset. */
  'map.settings': command(settingsLabel, { settings: a.params }, (doc, { settings }) =>
    changeSettings(doc, Object.fromEntries(Object.entries(settings).map(([key, v]) => [key, v ?? undefined]))),
  ),
  /** A sky that people know: its colours and light, the even light under it, and what suns there are become its sun. */
  'map.sky': command('Change the sky', { sky: a.choice(...SKIES.map((s) => s.id)) }, (doc, { sky }) =>
    takeSky(doc, sky),
  ),
  /** Puts items as they are: what a merge or an earlier revision comes to. */
  'map.change': command(
    ({ label = 'Change' }) => label,
    { changes, label: a.maybe(a.name) },
    (doc, { changes }) => applyChanges(doc, migrateChanges(changes)),
  ),
  'finding.fix': command(
    ({ fix = 'Fix' }) => fix,
    { finding, fix: a.maybe(a.name) },
    (doc, { finding, fix }, { materials }) => fixFinding(doc, finding, { materials }, fix),
  ),

  'group.rename': command('Rename group', { group: a.id, name: a.name }, (doc, { group, name }) =>
    renameGroup(doc, group, name),
  ),
  'layer.add': command('Add layer', { name: a.name }, (doc, { name }) => addLayer(doc, name)),
  'layer.change': command(
    ({ visible, locked }) => {
      if (visible !== undefined) return visible ? 'Show layer' : 'Hide layer';
      return locked === undefined ? 'Rename layer' : locked ? 'Lock layer' : 'Unlock layer';
    },
    { layer: a.id, name: a.maybe(a.name), visible: a.maybe(a.yes), locked: a.maybe(a.yes) },
    (doc, { layer, ...change }) => changeLayer(doc, layer, change),
  ),
  'layer.remove': command('Remove layer', { layer: a.id }, (doc, { layer }) => removeLayer(doc, layer)),
  'storey.add': command('Add storey', { name: a.name, floor: a.number, cut: a.number }, (doc, storey) =>
    addStorey(doc, storey),
  ),
  'storey.change': command(
    ({ name }) => (name === undefined ? 'Storey cut' : 'Rename storey'),
    { storey: a.id, name: a.maybe(a.name), floor: a.maybe(a.number), cut: a.maybe(a.number) },
    (doc, { storey, ...change }) => changeStorey(doc, storey, change),
  ),
  'storey.remove': command('Remove storey', { storey: a.id }, (doc, { storey }) => removeStorey(doc, storey)),
  'view.save': command(
    'Save view',
    {
      name: a.name,
      centre: a.vec3,
      zoom: a.number,
      level: a.number,
      cutHeight: a.number,
      section,
      eye: a.maybe(a.record({ at: a.vec3, towards: a.vec3 })),
    },
    (doc, view) => saveView(doc, view satisfies Omit<SavedView, 'id'>),
  ),
  'view.remove': command('Remove view', { view: a.id }, (doc, { view }) => removeView(doc, view)),
};
