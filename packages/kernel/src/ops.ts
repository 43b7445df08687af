/**
 * The arithmetic that a graph may hold: one row an operation, read by all three readers, so that
 * the interpreter, WebAssembly and WGSL cannot drift apart.
 */

export type Type = 'f32' | 'i32' | 'bool';

/** One lane's value. Booleans are 0 or 1; i32 are signed 32-bit integers; f32 are rounded doubles. */
export type Scalar = number;

export interface Operation {
  readonly args: readonly Type[];
  readonly type: Type;
  /** The exact scalar meaning: IEEE 754 single precision, two's complement integers. */
  readonly evaluate: (...args: Scalar[]) => Scalar;
  /** Opcode behind the SIMD prefix 0xfd. */
  readonly wasm: number;
  /** WGSL text; $0, $1, $2 stand for the arguments. */
  readonly wgsl: string;
}

const f = Math.fround;
const words = new DataView(new ArrayBuffer(4));

export function floatBits(value: number): number {
  words.setFloat32(0, value);
  return words.getInt32(0);
}

export function bitsFloat(bits: number): number {
  words.setInt32(0, bits);
  return words.getFloat32(0);
}

/** Round half to even, as f32x4.nearest and WGSL round do. */
function nearest(x: number): number {
  if (Math.abs(x) >= 8388608 || Number.isNaN(x)) return x;
  const low = Math.floor(x);
  const rest = x - low;
  const up = rest > 0.5 || (rest === 0.5 && low % 2 !== 0);
  const result = up ? low + 1 : low;
  return result === 0 && (x < 0 || Object.is(x, -0)) ? -0 : result;
}

/** Truncation that saturates and sends NaN to 0, as i32x4.trunc_sat_f32x4_s does. */
function truncate(x: number): number {
  if (Number.isNaN(x)) return 0;
  return Math.max(-2147483648, Math.min(2147483647, Math.trunc(x))) | 0;
}

const F1: readonly Type[] = ['f32'];
const F2: readonly Type[] = ['f32', 'f32'];
const I1: readonly Type[] = ['i32'];
const I2: readonly Type[] = ['i32', 'i32'];
const B2: readonly Type[] = ['bool', 'bool'];

function row(
  args: readonly Type[],
  type: Type,
  wasm: number,
  wgsl: string,
  evaluate: (...args: Scalar[]) => Scalar,
): Operation {
  return { args, type, wasm, wgsl, evaluate };
}

export const OPERATIONS = {
  addF: row(F2, 'f32', 0xe4, '($0 + $1)', (a, b) => f(a + b)),
  subF: row(F2, 'f32', 0xe5, '($0 - $1)', (a, b) => f(a - b)),
  mulF: row(F2, 'f32', 0xe6, '($0 * $1)', (a, b) => f(a * b)),
  divF: row(F2, 'f32', 0xe7, '($0 / $1)', (a, b) => f(a / b)),
  minF: row(F2, 'f32', 0xea, 'min($0, $1)', (a, b) => (b < a ? b : a)),
  maxF: row(F2, 'f32', 0xeb, 'max($0, $1)', (a, b) => (a < b ? b : a)),
  negF: row(F1, 'f32', 0xe1, '(-$0)', (a) => -a),
  absF: row(F1, 'f32', 0xe0, 'abs($0)', (a) => Math.abs(a)),
  sqrtF: row(F1, 'f32', 0xe3, 'sqrt($0)', (a) => f(Math.sqrt(a))),
  floorF: row(F1, 'f32', 0x68, 'floor($0)', (a) => Math.floor(a)),
  nearestF: row(F1, 'f32', 0x6a, 'round($0)', (a) => nearest(a)),
  ltF: row(F2, 'bool', 0x43, '($0 < $1)', (a, b) => +(a < b)),
  leF: row(F2, 'bool', 0x45, '($0 <= $1)', (a, b) => +(a <= b)),
  gtF: row(F2, 'bool', 0x44, '($0 > $1)', (a, b) => +(a > b)),
  geF: row(F2, 'bool', 0x46, '($0 >= $1)', (a, b) => +(a >= b)),
  eqF: row(F2, 'bool', 0x41, '($0 == $1)', (a, b) => +(a === b)),
  addI: row(I2, 'i32', 0xae, '($0 + $1)', (a, b) => (a + b) | 0),
  subI: row(I2, 'i32', 0xb1, '($0 - $1)', (a, b) => (a - b) | 0),
  mulI: row(I2, 'i32', 0xb5, '($0 * $1)', (a, b) => Math.imul(a, b)),
  minI: row(I2, 'i32', 0xb6, 'min($0, $1)', (a, b) => Math.min(a, b)),
  maxI: row(I2, 'i32', 0xb8, 'max($0, $1)', (a, b) => Math.max(a, b)),
  andI: row(I2, 'i32', 0x4e, '($0 & $1)', (a, b) => a & b),
  orI: row(I2, 'i32', 0x50, '($0 | $1)', (a, b) => a | b),
  xorI: row(I2, 'i32', 0x51, '($0 ^ $1)', (a, b) => a ^ b),
  ltI: row(I2, 'bool', 0x39, '($0 < $1)', (a, b) => +(a < b)),
  leI: row(I2, 'bool', 0x3d, '($0 <= $1)', (a, b) => +(a <= b)),
  gtI: row(I2, 'bool', 0x3b, '($0 > $1)', (a, b) => +(a > b)),
  geI: row(I2, 'bool', 0x3f, '($0 >= $1)', (a, b) => +(a >= b)),
  eqI: row(I2, 'bool', 0x37, '($0 == $1)', (a, b) => +(a === b)),
  andB: row(B2, 'bool', 0x4e, '($0 && $1)', (a, b) => a & b),
  orB: row(B2, 'bool', 0x50, '($0 || $1)', (a, b) => a | b),
  notB: row(['bool'], 'bool', 0x4d, '(!$0)', (a) => 1 - a),
  toF: row(I1, 'f32', 0xfa, 'f32($0)', (a) => f(a)),
  toI: row(F1, 'i32', 0xf8, 'i32($0)', (a) => truncate(a)),
  /** Shifts take their amount (0 to 31) from the node's immediate. */
  shl: row(I1, 'i32', 0xab, '($0 << $nu)', (a, n) => a << n),
  shrU: row(I1, 'i32', 0xad, 'bitcast<i32>(bitcast<u32>($0) >> $nu)', (a, n) => (a >>> n) | 0),
  shrS: row(I1, 'i32', 0xac, '($0 >> $nu)', (a, n) => a >> n),
  selectF: row(['bool', 'f32', 'f32'], 'f32', 0x52, 'select($2, $1, $0)', (c, a, b) => (c ? a : b)),
  selectI: row(['bool', 'i32', 'i32'], 'i32', 0x52, 'select($2, $1, $0)', (c, a, b) => (c ? a : b)),
  /** Reinterpretations cost nothing in WebAssembly: a lane has no type there. */
  bitsF: row(I1, 'f32', -1, 'bitcast<f32>($0)', (a) => bitsFloat(a)),
  bitsI: row(F1, 'i32', -1, 'bitcast<i32>($0)', (a) => floatBits(a)),
} satisfies Record<string, Operation>;

export type OperationName = keyof typeof OPERATIONS;

export function operation(name: OperationName): Operation {
  return OPERATIONS[name];
}

export const SHIFTS: ReadonlySet<string> = new Set<OperationName>(['shl', 'shrU', 'shrS']);
