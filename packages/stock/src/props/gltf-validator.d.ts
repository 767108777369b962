/** The Khronos validator comes without types. */
declare module 'gltf-validator' {
  const validator: { validateBytes(bytes: Uint8Array): Promise<unknown> };
  export default validator;
}
