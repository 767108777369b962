export * from './errors.ts';
export * from './footprint.ts';
export * from './room-parts.ts';
export {
  addRoom,
  changeRoom,
  changeOpening,
  doorwayPlaces,
  moveRooms,
  openDoorway,
  releaseRoom,
  removeOpenings,
  removeRooms,
  type RoomDress,
  type RoomSpec,
} from './rooms.ts';
export * from './brushes.ts';
export * from './clipboard.ts';
export * from './faces.ts';
export * from './entities.ts';
export * from './history.ts';
