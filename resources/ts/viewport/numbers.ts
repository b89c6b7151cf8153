/** Parts in a row of a texture. */
export const TEXTURE_WIDTH = 256;

/** Of a piece: place and state, turn, size and how far it has changed. */
export const TEXELS = 3;

/** Numbers of a piece. */
export const NUMBERS = 4 * TEXELS;

/** What is added up in the fourth number of a piece's pose. */
export const OPEN = 1;
export const SELECTED = 2;
export const HIDDEN = 4;
