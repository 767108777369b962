export * from './errors.ts';
export * from './footprint.ts';
export * from './room-parts.ts';
export * from './room-clearance.ts';
export { brushesOf, openingFits, touchingRooms, waitingOpenings, type RoomDress } from './remake.ts';
export {
  addRoom,
  changeRoom,
  giveAllBack,
  giveBack,
  moveRooms,
  releaseBrushes,
  releaseRoom,
  removeRooms,
  transformRooms,
  type RoomSpec,
} from './rooms.ts';
export * from './openings.ts';
export * from './insets.ts';
export * from './along.ts';
export * from './drawn-collision.ts';
export * from './waiting.ts';
export * from './groups.ts';
export * from './brushes.ts';
export * from './copies.ts';
export * from './clip.ts';
export * from './neighbours.ts';
export * from './clipboard.ts';
export * from './assemblies.ts';
export * from './faces.ts';
export * from './surfaces.ts';
export * from './foliage.ts';
export * from './entities.ts';
export * from './history.ts';
export * from './shaping.ts';
export * from './arranging.ts';
export * from './sheets.ts';
export * from './similar.ts';
export * from './compare.ts';
export * from './merge.ts';
export * from './parts.ts';
export * from './owning.ts';
export * from './doors.ts';
export * from './leaves.ts';
export * from './wires.ts';
export * from './moods.ts';
export * from './sky.ts';
export * from './props.ts';
export * from './decals.ts';
export * from './billboards.ts';
export { decalsToPatches, isPatch, patchesToDecals } from './patches.ts';
export { scatterProps, strewProps, type Dab, type Scatter, type Strewing } from './scatter.ts';
export * from './reflections.ts';
export * from './gates.ts';
export * from './hints.ts';
export { freeRegion, sectionAt } from './section.ts';
