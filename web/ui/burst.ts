let made = 0;

/** A name for edits that one undo takes back together. */
export const newBurst = (): string => `burst ${++made}`;
