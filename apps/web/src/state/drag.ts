/** The kind of data under which a dragged material travels. */
export const MATERIAL_DRAG = 'application/x-yesca-material';
