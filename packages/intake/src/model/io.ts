import { NodeIO } from '@gltf-transform/core';
import { KHRLightsPunctual } from '@gltf-transform/extensions';

/** Reads and writes models as props are kept, with what marks their lamps. */
export const modelFile = (): NodeIO => new NodeIO().registerExtensions([KHRLightsPunctual]);
