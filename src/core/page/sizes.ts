/** Sizes in CSS pixels of a photo that stands in its area. */
export const STANDING_PHOTO = { small: 84, normal: 112, large: 150 } as const;
/** Width to height of a photo that fills the whole width of a phone. */
export const FILLING_PHOTO = { small: 1.6, normal: 1.25, large: 1 } as const;
