/** FNV-1a over a frame's bytes; any changed bit changes it. */
export function frameHash(pixels: Uint8ClampedArray): string {
  let h = 0x811c9dc5;
  for (const byte of pixels) h = Math.imul(h ^ byte, 0x01000193);
  return (h >>> 0).toString(16).padStart(8, '0');
}
