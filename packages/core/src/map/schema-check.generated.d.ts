/** A compiled check: whether data fits, and after a `false` why not. */
export interface SchemaCheck {
  (data: unknown): boolean;
  errors?: readonly { readonly instancePath: string; readonly message?: string }[] | null;
}
/** The whole file. */
export const map: SchemaCheck;
/** An item of each collection. */
export const rooms: SchemaCheck;
export const openings: SchemaCheck;
export const brushes: SchemaCheck;
export const entities: SchemaCheck;
export const groups: SchemaCheck;
export const layers: SchemaCheck;
export const storeys: SchemaCheck;
export const views: SchemaCheck;
export const wires: SchemaCheck;
