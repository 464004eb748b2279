/** Pixels a second of a page, at which spoken words fill about the height that their time takes. */
export const PIXELS = 7
