/** Eight tables: the sum of a byte with so many bytes of 0 behind it. */
const TABLES = Array.from({ length: 8 }, () => new Int32Array(256));
for (let n = 0; n < 256; n++) {
  let c = n;
  for (let k = 0; k < 8; k++) c = c & 1 ? (c >>> 1) ^ 0xedb88320 : c >>> 1;
  TABLES[0]![n] = c;
}
for (let n = 0; n < 256; n++) {
  for (let k = 1; k < 8; k++) {
    const c = TABLES[k - 1]![n]!;
    TABLES[k]![n] = (c >>> 8) ^ TABLES[0]![c & 255]!;
  }
}

/** The cyclic redundancy check of PNG and zip (ISO 3309), eight bytes at a time (M. E. Kounavis and F. L. Berry, 2005). */
export function crc32(bytes: Uint8Array): number {
  const [t0, t1, t2, t3, t4, t5, t6, t7] = TABLES as [
    ...[Int32Array, Int32Array, Int32Array, Int32Array],
    ...[Int32Array, Int32Array, Int32Array, Int32Array],
  ];
  let c = -1;
  let i = 0;
  for (; i + 8 <= bytes.length; i += 8) {
    c ^= bytes[i]! | (bytes[i + 1]! << 8) | (bytes[i + 2]! << 16) | (bytes[i + 3]! << 24);
    c =
      t7[c & 255]! ^
      t6[(c >>> 8) & 255]! ^
      t5[(c >>> 16) & 255]! ^
      t4[c >>> 24]! ^
      t3[bytes[i + 4]!]! ^
      t2[bytes[i + 5]!]! ^
      t1[bytes[i + 6]!]! ^
      t0[bytes[i + 7]!]!;
  }
  for (; i < bytes.length; i++) c = (c >>> 8) ^ t0[(c ^ bytes[i]!) & 255]!;
  return (c ^ -1) >>> 0;
}
