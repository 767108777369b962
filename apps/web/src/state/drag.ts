/** The kind of data under which a dragged material travels. */
export const MATERIAL_DRAG = 'application/x-yesca-material';

/** What a kind of thing dragged from Stock is called. */
export const KIND_DRAG = 'application/x-yesca-kind';

/** What a prop dragged from Stock is called. */
export const PROP_DRAG = 'application/x-yesca-prop';

/** What a decal dragged from Stock is called: its material and region, a line each. */
export const DECAL_DRAG = 'application/x-yesca-decal';
