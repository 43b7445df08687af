import {
  at,
  constI32,
  constV128,
  functionType,
  get,
  HEADER,
  I32,
  OP,
  section,
  set,
  SIMD,
  simd,
  text,
  unsigned,
  V128,
  vector,
  type Bytes,
} from './encode';
import { INVARIANT, LANE, type Expr, type Fn, type Graph, type Loop, type Scope } from './graph';
import { floatBits, operation, SHIFTS, type OperationName } from './ops';
import { schedule, storeRoots, type Schedule } from './schedule';

/** Words in front of a parameter block: first and last lane, which WGSL reads from there. */
export const PARAM_HEAD = 2;

/**
 * Where a kernel finds its things, in 32-bit words from the start of the parameter block: the head,
 * then one word per buffer (byte address here, element offset in WGSL), then one word per uniform.
 */
export function paramWord(graph: Graph, kind: 'buffer' | 'uniform', index: number): number {
  return PARAM_HEAD + (kind === 'buffer' ? index : graph.buffers.length + index);
}

export function paramWords(graph: Graph): number {
  return PARAM_HEAD + graph.buffers.length + graph.uniforms.length;
}

/**
 * Writes a WebAssembly module with four lanes to a step.
 *
 * It imports `env.memory` (shared, at most `maxPages` pages) and exports
 * `run(begin: i32, end: i32, params: i32)`: lanes begin to end, both multiples of 4, with the
 * parameter block (see paramWord) at byte address `params`. Buffers must be padded to 4 lanes.
 */
export function toWasm(graph: Graph, maxPages: number): Uint8Array<ArrayBuffer> {
  const plan = schedule(storeRoots(graph.stores));
  const numbers = new Map<Fn, number>(plan.functions.map((fn, i) => [fn, i]));
  const types = plan.functions.map((fn) =>
    functionType(
      fn.params.map(() => V128),
      fn.results.map(() => V128),
    ),
  );
  const codes = plan.functions.map((fn) => new Writer(null, fn, numbers).functionBody());
  types.push(functionType([I32, I32, I32], []));
  codes.push(new Writer(graph, null, numbers).kernelBody(plan));
  const run = plan.functions.length;
  return new Uint8Array([
    ...HEADER,
    ...section(1, vector(types)),
    ...section(
      2,
      vector([[...text('env'), ...text('memory'), 0x02, 0x03, 0x00, ...unsigned(maxPages)]]),
    ),
    ...section(3, vector(types.map((_, i) => unsigned(i)))),
    ...section(7, vector([[...text('run'), 0x00, ...unsigned(run)]])),
    ...section(10, vector(codes.map((code) => [...unsigned(code.length), ...code]))),
  ]);
}

const BEGIN = 0;
const END = 1;
const PARAMS = 2;

class Writer {
  private readonly locals: number[] = [];
  private readonly parameters: number;
  private readonly homes = new Map<Expr, number>();
  private readonly results = new Map<Expr, number[]>();
  private plan: Schedule = schedule([]);
  private readonly code: Bytes = [];
  private pointers: number[] = [];
  /** Where what is beside the lane begins, by buffer and how far beside it is. */
  private readonly beside = new Map<string, number>();
  /** Bytes from lane 0 to the present one. */
  private bytes = 0;

  constructor(
    private readonly graph: Graph | null,
    private readonly fn: Fn | null,
    private readonly numbers: Map<Fn, number>,
  ) {
    this.parameters = fn ? fn.params.length : 3;
  }

  functionBody(): Bytes {
    const fn = this.fn!;
    this.plan = schedule(fn.results);
    this.emitScope(INVARIANT);
    this.emitScope(LANE);
    for (const result of fn.results) this.read(result);
    return this.finish();
  }

  /** `for (lane = begin; lane < end; lane += 4) { … }`, with what does not vary read before it. */
  kernelBody(plan: Schedule): Bytes {
    this.plan = plan;
    const graph = this.graph!;
    this.pointers = graph.buffers.map((_, i) => {
      const local = this.local(I32);
      this.push(get(PARAMS), OP.loadI32(4 * paramWord(graph, 'buffer', i)), set(local));
      return local;
    });
    this.emitScope(INVARIANT);
    this.findBeside();
    this.bytes = this.local(I32);
    this.push(OP.block, OP.loop, get(BEGIN), get(END), OP.geS, OP.branchIf(1));
    this.push(get(BEGIN), constI32(2), OP.shlI32, set(this.bytes));
    this.emitScope(LANE);
    for (const { buffer, value, mask } of graph.stores) {
      this.address(buffer);
      this.read(value);
      if (mask) {
        this.address(buffer);
        this.push(simd(SIMD.load), at(0));
        this.read(mask);
        this.push(simd(SIMD.bitselect));
      }
      this.push(simd(SIMD.store), at(0));
    }
    this.push(get(BEGIN), constI32(4), OP.addI32, set(BEGIN), OP.branch(0), OP.end, OP.end);
    return this.finish();
  }

  private finish(): Bytes {
    const groups: Bytes[] = this.locals.map((type) => [1, type]);
    return [...vector(groups), ...this.code, ...OP.end];
  }

  private push(...parts: (readonly number[])[]): void {
    for (const part of parts) for (const byte of part) this.code.push(byte);
  }

  private local(type: number): number {
    return this.parameters + this.locals.push(type) - 1;
  }

  /** Leaves the address of the lane's own number on the stack. */
  private address(buffer: number): void {
    this.push(get(this.pointers[buffer]!), get(this.bytes), OP.addI32);
  }

  /** Finds values that are always as far beside the lane: they begin at one place for the whole run. */
  private findBeside(): void {
    for (const node of this.plan.nodes) {
      if (node.kind !== 'load') continue;
      const by = besideLane(node.args[0]!);
      if (by?.scope !== INVARIANT || this.beside.has(placeOf(node.imm, by))) continue;
      const local = this.local(I32);
      this.push(get(this.pointers[node.imm]!));
      this.elementBytes(by);
      this.push(OP.addI32, set(local));
      this.beside.set(placeOf(node.imm, by), local);
    }
  }

  /** Leaves the bytes of so many numbers, the same in all lanes, on the stack. */
  private elementBytes(count: Expr): void {
    if (count.kind === 'const') {
      this.push(constI32(4 * count.imm));
      return;
    }
    this.read(count);
    this.push(simd(SIMD.extractI32), [0], constI32(2), OP.shlI32);
  }

  private emitScope(scope: Scope): void {
    for (const node of this.plan.in(scope)) {
      if (!this.plan.inlined(node)) this.emit(node);
    }
  }

  private emit(node: Expr): void {
    switch (node.kind) {
      case 'param':
      case 'loopIndex':
      case 'loopValue':
      case 'callResult':
      case 'loopResult':
        return;
      case 'call': {
        for (const arg of node.args) this.read(arg);
        this.push(OP.call(this.numbers.get(node.fn!)!));
        const homes = node.fn!.results.map(() => this.local(V128));
        for (const home of [...homes].reverse()) this.push(set(home));
        this.results.set(node, homes);
        return;
      }
      case 'loop':
        this.emitLoop(node, node.loop!);
        return;
      default: {
        this.compute(node);
        const home = this.local(V128);
        this.homes.set(node, home);
        this.push(set(home));
      }
    }
  }

  private emitLoop(node: Expr, loop: Loop): void {
    const { goOn } = loop;
    const varies = loop.count.scope !== INVARIANT || goOn !== null;
    const turn = this.local(I32);
    const index = this.local(V128);
    const count = this.local(varies ? V128 : I32);
    const carried = loop.initial.map(() => this.local(V128));
    loop.initial.forEach((e, i) => {
      this.read(e);
      this.push(set(carried[i]!));
    });
    loop.values.forEach((v, i) => this.homes.set(v, carried[i]!));
    this.read(loop.count);
    if (!varies) this.push(simd(SIMD.extractI32), [0]);
    this.push(set(count), constI32(0), set(turn), OP.block, OP.loop);
    this.homes.set(loop.index, index);
    this.push(get(turn), simd(SIMD.splatI32), set(index));
    const mask = varies ? this.local(V128) : 0;
    if (varies) {
      this.push(get(index), get(count), simd(operation('ltI').wasm), set(mask));
      this.push(get(mask), simd(SIMD.anyTrue), OP.eqz, OP.branchIf(1));
    } else this.push(get(turn), get(count), OP.geS, OP.branchIf(1));
    this.emitScope(loop);
    loop.results.forEach((result, i) => {
      this.read(result);
      if (varies) this.push(get(carried[i]!), get(mask), simd(SIMD.bitselect));
    });
    // Read before the carried values change; where it is false no further turn is counted.
    if (goOn) {
      this.push(get(count));
      this.push(constV128(0));
      this.read(goOn);
      this.push(simd(SIMD.bitselect), set(count));
    }
    for (const home of [...carried].reverse()) this.push(set(home));
    this.push(get(turn), constI32(1), OP.addI32, set(turn), OP.branch(0), OP.end, OP.end);
    this.results.set(node, carried);
  }

  /** Leaves the value of a node on the stack. */
  private read(node: Expr): void {
    if (node.kind === 'param') this.push(get(node.imm));
    else if (node.kind === 'callResult' || node.kind === 'loopResult') {
      this.push(get(this.results.get(node.args[0]!)![node.imm]!));
    } else {
      const home = this.homes.get(node);
      if (home === undefined) this.compute(node);
      else this.push(get(home));
    }
  }

  private compute(node: Expr): void {
    switch (node.kind) {
      case 'const':
        this.push(constV128(node.type === 'f32' ? floatBits(node.imm) : node.imm));
        return;
      case 'uniform': {
        const word = paramWord(this.graph!, 'uniform', node.imm);
        this.push(get(PARAMS), simd(SIMD.loadSplat), at(4 * word));
        return;
      }
      case 'lane':
        this.push(get(BEGIN), simd(SIMD.splatI32), simd(0x0c));
        for (let i = 0; i < 4; i++) this.push([i, 0, 0, 0]);
        this.push(simd(operation('addI').wasm));
        return;
      case 'load':
        this.load(node.imm, node.args[0]!);
        return;
      default: {
        // bitselect wants (yes, no, mask), the graph has the mask first.
        const [first, ...rest] = node.args;
        const masked = node.kind === 'selectF' || node.kind === 'selectI';
        for (const arg of masked ? [...rest, first!] : node.args) this.read(arg);
        if (SHIFTS.has(node.kind)) {
          this.push(constI32(node.imm), simd(operation(node.kind as OperationName).wasm));
        } else {
          const opcode = operation(node.kind as OperationName).wasm;
          if (opcode >= 0) this.push(simd(opcode));
        }
      }
    }
  }

  private load(buffer: number, index: Expr): void {
    if (index.kind === 'lane') {
      this.address(buffer);
      this.push(simd(SIMD.load), at(0));
      return;
    }
    const by = besideLane(index);
    if (by) {
      const known = this.beside.get(placeOf(buffer, by));
      if (known !== undefined) this.push(get(known), get(this.bytes), OP.addI32);
      else {
        this.address(buffer);
        this.elementBytes(by);
        this.push(OP.addI32);
      }
      this.push(simd(SIMD.load), at(0));
      return;
    }
    if (isEven(index)) {
      this.push(get(this.pointers[buffer]!));
      this.elementBytes(index);
      this.push(OP.addI32, simd(SIMD.loadSplat), at(0));
      return;
    }
    const where = this.local(V128);
    const out = this.local(V128);
    this.read(index);
    this.push(set(where));
    for (let i = 0; i < 4; i++) {
      this.push(get(this.pointers[buffer]!), get(where), simd(SIMD.extractI32), [i]);
      this.push(constI32(2), OP.shlI32, OP.addI32);
      if (i === 0) this.push(simd(SIMD.loadZero), at(0), set(out));
      else this.push(get(out), simd(SIMD.loadLane), at(0), [i], set(out));
    }
    this.push(get(out));
  }
}

const placeOf = (buffer: number, by: Expr): string => `${String(buffer)} ${String(by.id)}`;

/** The x of an index `lane + x` that is the same for all lanes; null for any other index. */
function besideLane(index: Expr): Expr | null {
  if (index.kind !== 'addI') return null;
  const [a, b] = index.args;
  return a!.kind === 'lane' && isEven(b!) ? b! : null;
}

const VARYING: ReadonlySet<Expr['kind']> = new Set([
  ...(['lane', 'param', 'load', 'call', 'callResult'] as const),
  ...(['loop', 'loopValue', 'loopResult'] as const),
]);

const evenness = new WeakMap<Expr, boolean>();

/** Whether a node has the same value in all lanes, however deep in loops it stands. */
function isEven(node: Expr): boolean {
  const known = evenness.get(node);
  if (known !== undefined) return known;
  const even = !VARYING.has(node.kind) && node.args.every(isEven);
  evenness.set(node, even);
  return even;
}
