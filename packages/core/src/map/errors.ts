/** A map file that cannot be used. `place` says where, in the file's own terms. */
export class MapFileError extends Error {
  override name = 'MapFileError';
  readonly code: string;
  readonly place: string;
  constructor(code: string, place: string, message: string) {
    super(message);
    this.code = code;
    this.place = place;
  }
}
