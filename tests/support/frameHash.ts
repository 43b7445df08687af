/** FNV-1a over the bytes of an array; any changed bit changes it. */
export function bytesHash(values: ArrayBufferView): string {
  const bytes = new Uint8Array(values.buffer, values.byteOffset, values.byteLength);
  let h = 0x811c9dc5;
  for (const byte of bytes) h = Math.imul(h ^ byte, 0x01000193);
  return (h >>> 0).toString(16).padStart(8, '0');
}

/** The hash of a frame's pixels. */
export function frameHash(pixels: Uint8ClampedArray): string {
  return bytesHash(pixels);
}
