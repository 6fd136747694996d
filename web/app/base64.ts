/** Numbers as they travel: base64 of 64-bit floating-point numbers. */
export function toBase64(values: Float64Array): string {
  const bytes = new Uint8Array(values.buffer, values.byteOffset, values.byteLength);
  let text = '';
  // In stretches: one call takes only so many arguments.
  for (let i = 0; i < bytes.length; i += 0x8000) text += String.fromCharCode(...bytes.subarray(i, i + 0x8000));
  return btoa(text);
}

export function fromBase64(text: string): Float64Array {
  const raw = atob(text);
  const bytes = Uint8Array.from(raw, (c) => c.charCodeAt(0));
  return new Float64Array(bytes.buffer, 0, Math.floor(bytes.length / 8));
}
