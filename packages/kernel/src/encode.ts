/** The few pieces of the WebAssembly binary format that kernels need (W3C core specification, 5). */

export type Bytes = number[];

export function unsigned(value: number): Bytes {
  const out: Bytes = [];
  let rest = value >>> 0;
  do {
    const low = rest & 0x7f;
    rest >>>= 7;
    out.push(rest ? low | 0x80 : low);
  } while (rest);
  return out;
}

export function signed(value: number): Bytes {
  const out: Bytes = [];
  let rest = value | 0;
  for (;;) {
    const low = rest & 0x7f;
    rest >>= 7;
    const last = (rest === 0 && !(low & 0x40)) || (rest === -1 && low & 0x40);
    out.push(last ? low : low | 0x80);
    if (last) return out;
  }
}

/** A name, of plain letters. (Not every place that makes modules has a TextEncoder.) */
export function text(value: string): Bytes {
  const bytes = Array.from(value, (letter) => letter.charCodeAt(0));
  return [...unsigned(bytes.length), ...bytes];
}

export function vector(items: readonly Bytes[]): Bytes {
  return [...unsigned(items.length), ...items.flat()];
}

export function section(id: number, content: Bytes): Bytes {
  return [id, ...unsigned(content.length), ...content];
}

export const I32 = 0x7f;
export const V128 = 0x7b;

export const HEADER: Bytes = [0x00, 0x61, 0x73, 0x6d, 0x01, 0x00, 0x00, 0x00];

export function functionType(params: Bytes, results: Bytes): Bytes {
  return [0x60, ...unsigned(params.length), ...params, ...unsigned(results.length), ...results];
}

/** A SIMD instruction by its opcode behind the prefix. */
export function simd(opcode: number): Bytes {
  return [0xfd, ...unsigned(opcode)];
}

/** A memory access: alignment hint 0, then the offset in bytes. */
export function at(offset: number): Bytes {
  return [0x00, ...unsigned(offset)];
}

export const get = (local: number): Bytes => [0x20, ...unsigned(local)];
export const set = (local: number): Bytes => [0x21, ...unsigned(local)];
export const constI32 = (value: number): Bytes => [0x41, ...signed(value)];

export function constV128(lane: number): Bytes {
  const bytes = [lane & 255, (lane >>> 8) & 255, (lane >>> 16) & 255, (lane >>> 24) & 255];
  return [...simd(0x0c), ...bytes, ...bytes, ...bytes, ...bytes];
}

export const OP = {
  end: [0x0b],
  block: [0x02, 0x40],
  loop: [0x03, 0x40],
  branch: (depth: number): Bytes => [0x0c, ...unsigned(depth)],
  branchIf: (depth: number): Bytes => [0x0d, ...unsigned(depth)],
  call: (index: number): Bytes => [0x10, ...unsigned(index)],
  loadI32: (offset: number): Bytes => [0x28, ...at(offset)],
  addI32: [0x6a],
  shlI32: [0x74],
  ltS: [0x48],
  geS: [0x4e],
  eqz: [0x45],
} as const;

/** SIMD opcodes that are not arithmetic of the graph. */
export const SIMD = {
  load: 0x00,
  loadSplat: 0x09,
  store: 0x0b,
  splatI32: 0x11,
  extractI32: 0x1b,
  bitselect: 0x52,
  anyTrue: 0x53,
  loadLane: 0x56,
  loadZero: 0x5c,
} as const;
