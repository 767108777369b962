/** The Khronos validator comes without types. */
declare module 'gltf-validator' {
  interface Issue {
    readonly code: string;
    readonly message: string;
    /** 0 is an error, 1 a warning. */
    readonly severity: number;
    readonly pointer?: string;
  }
  interface Report {
    readonly issues: { readonly numErrors: number; readonly numWarnings: number; readonly messages: readonly Issue[] };
  }
  interface Options {
    readonly uri?: string;
    readonly maxIssues?: number;
    readonly externalResourceFunction?: (uri: string) => Promise<Uint8Array>;
  }
  const validator: { validateBytes(bytes: Uint8Array, options?: Options): Promise<Report> };
  export default validator;
}
declare module 'draco3dgltf' {
  const draco: { createDecoderModule(): Promise<unknown> };
  export default draco;
}
