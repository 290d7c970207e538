/** The largest picture that Fingo opens, in megapixels (10^6 px). */
export const MAX_MEGAPIXELS = 64;
/** The largest file that Fingo reads. */
export const MAX_FILE_BYTES = 400 * 2 ** 20;
