export * from './types.ts';
export * from './catalogue.ts';
export { star, type Reach, type SpaceLine, type Stroke, type SymbolPoint, type SymbolView } from './strokes.ts';
export { coneShare, endShare, lightShape, strengthOfLight, type LightCone, type LightSource } from './light-source.ts';
export { rounded, type Carried, type Handle, type ThingChange } from './handles.ts';
export { turnedBox, type SpannedBox } from './box-handles.ts';
export type { Around, BeginsFor, EntityKind, FigureBody, Port, ThingFlaw, Trade } from './kind.ts';
export { doorWith } from './kinds/door/index.ts';
export type { Leaf as DoorLeaf } from './kinds/door/params.ts';
export { SOUNDS, type Hum, type SoundName } from './sounds.ts';
export { LAMP_KIND } from './kinds/point-light.ts';
export { PROP_KIND } from './kinds/prop.ts';
export { BILLBOARD_KIND } from './kinds/billboard.ts';
export { BILLBOARD_FACINGS, billboardFacts, type Billboard, type BillboardFacing } from './billboard.ts';
export { DECAL_KIND } from './kinds/decal.ts';
export { ENTITY_KINDS } from './kinds/index.ts';
export { partBox } from './parts.ts';
export { propPose, propTurn, type Model, type PropStops } from './model.ts';
export { dimReach } from './lamps.ts';
export { renameReferences } from './references.ts';
export { transformEntity } from './transform.ts';
export type { Behaviour, Happening, Memory, Moment } from './behaviour.ts';
export {
  AT_REST,
  eased,
  farthestMove,
  isShift,
  movedBox,
  poseBetween,
  stepBetween,
  trackLength,
  trackPose,
  type Pose,
} from './motion.ts';
