/** Sums of all other entries, in the form that `sha256sum -c` reads. */
export const sumsPath = 'checksums.txt';

/** An entry of a megabyte or more that shrank more than this many times is no record of a workshop: what we write that would is stored. */
export const looseRatio = 200;
