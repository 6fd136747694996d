/** Whether a text is a path from the root of a machine of the kind this program runs on. */
export const isAbsolute = (path: string): boolean => /^\/[^\0]*$/.test(path);
