export { isZip, LIMITS, unpack, type Refused, type Room, type UploadFile } from './unpack.ts';
export { MODEL_LIMITS, ModelRefusal } from './model/refusal.ts';
export type { ModelFiles } from './model/source.ts';
export { readModel, type ModelWishes, type ReadModel } from './model/read.ts';
export { openModels, PACK_LIST, type ModelShelf } from './model/files.ts';
export { thumbOf, type PlainPart } from './model/thumb.ts';
export { growModel, shiftModel } from './model/grow.ts';
