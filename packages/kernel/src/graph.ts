import { operation, SHIFTS, type OperationName, type Scalar, type Type } from './ops';

/**
 * Arithmetic graphs in static single assignment. A graph holds scalar nodes (vectors are tuples in
 * the builder, see vector.ts); equal nodes are one node, constants are folded. A kernel is a graph
 * with stores: it runs once for each lane (a particle or a pixel), without branches.
 */

export type NodeKind =
  | OperationName
  | 'const'
  | 'uniform'
  | 'lane'
  | 'param'
  | 'load'
  | 'call'
  | 'callResult'
  | 'loop'
  | 'loopIndex'
  | 'loopValue'
  | 'loopResult';

/** How deep in the emitted program a node has to stand: 0 once a run, 1 once a lane, more in loops. */
export interface Scope {
  readonly depth: number;
}

export const INVARIANT: Scope = { depth: 0 };
export const LANE: Scope = { depth: 1 };

export interface Loop extends Scope {
  readonly depth: number;
  count: Expr;
  initial: Expr[];
  index: Expr;
  values: Expr[];
  results: Expr[];
  /** Lanes where it is false after a turn take no further one; null where the count alone decides. */
  goOn: Expr | null;
}

/** A named function: emitted once, called many times. Pure: it sees only its parameters. */
export interface Fn {
  readonly name: string;
  readonly graph: Graph;
  readonly params: Expr[];
  readonly results: Expr[];
}

export interface Store {
  readonly buffer: number;
  readonly value: Expr;
  /** Lanes where it is false keep what the buffer held. */
  readonly mask: Expr | null;
}

export interface Slot {
  readonly name: string;
  readonly type: 'f32' | 'i32';
}

type Operand = Expr | number;

export class Expr {
  constructor(
    readonly graph: Graph,
    readonly id: number,
    readonly kind: NodeKind,
    readonly type: Type,
    readonly args: readonly Expr[],
    /** A constant's value, a shift's amount, or the number of a slot, parameter or result. */
    readonly imm: number,
    readonly scope: Scope,
    readonly fn: Fn | null,
    readonly loop: Loop | null,
  ) {}

  private binary(name: 'add' | 'sub' | 'mul' | 'min' | 'max', other: Operand): Expr {
    return this.graph.op(`${name}${this.type === 'i32' ? 'I' : 'F'}`, this, this.like(other));
  }

  private compare(name: 'lt' | 'le' | 'gt' | 'ge' | 'eq', other: Operand): Expr {
    return this.graph.op(`${name}${this.type === 'i32' ? 'I' : 'F'}`, this, this.like(other));
  }

  private like(other: Operand): Expr {
    if (other instanceof Expr) return other;
    return this.type === 'i32' ? this.graph.int(other) : this.graph.float(other);
  }

  add(other: Operand): Expr {
    return this.binary('add', other);
  }

  sub(other: Operand): Expr {
    return this.binary('sub', other);
  }

  mul(other: Operand): Expr {
    return this.binary('mul', other);
  }

  min(other: Operand): Expr {
    return this.binary('min', other);
  }

  max(other: Operand): Expr {
    return this.binary('max', other);
  }

  div(other: Operand): Expr {
    return this.graph.op('divF', this, this.like(other));
  }

  neg(): Expr {
    return this.graph.op('negF', this);
  }

  abs(): Expr {
    return this.graph.op('absF', this);
  }

  sqrt(): Expr {
    return this.graph.op('sqrtF', this);
  }

  floor(): Expr {
    return this.graph.op('floorF', this);
  }

  nearest(): Expr {
    return this.graph.op('nearestF', this);
  }

  lt(other: Operand): Expr {
    return this.compare('lt', other);
  }

  le(other: Operand): Expr {
    return this.compare('le', other);
  }

  gt(other: Operand): Expr {
    return this.compare('gt', other);
  }

  ge(other: Operand): Expr {
    return this.compare('ge', other);
  }

  eq(other: Operand): Expr {
    return this.compare('eq', other);
  }

  and(other: Operand): Expr {
    return this.graph.op(this.type === 'bool' ? 'andB' : 'andI', this, this.like(other));
  }

  or(other: Operand): Expr {
    return this.graph.op(this.type === 'bool' ? 'orB' : 'orI', this, this.like(other));
  }

  xor(other: Operand): Expr {
    return this.graph.op('xorI', this, this.like(other));
  }

  not(): Expr {
    return this.graph.op('notB', this);
  }

  shl(amount: number): Expr {
    return this.graph.shift('shl', this, amount);
  }
  /** Shift right, filling with zeros. */

  shrU(amount: number): Expr {
    return this.graph.shift('shrU', this, amount);
  }
  /** Shift right, keeping the sign. */

  shrS(amount: number): Expr {
    return this.graph.shift('shrS', this, amount);
  }

  toFloat(): Expr {
    return this.graph.op('toF', this);
  }
  /** Towards zero; saturates; NaN gives 0. */

  toInt(): Expr {
    return this.graph.op('toI', this);
  }

  asFloat(): Expr {
    return this.graph.op('bitsF', this);
  }

  asInt(): Expr {
    return this.graph.op('bitsI', this);
  }

  clamp(low: Operand, high: Operand): Expr {
    return this.max(low).min(high);
  }

  /** For a bool: `yes` where it is true, `no` elsewhere. Both are computed. */
  select(yes: Operand, no: Operand): Expr {
    const sample = yes instanceof Expr ? yes : no instanceof Expr ? no : this.graph.float(0);
    const a = sample.like(yes);
    return this.graph.op(a.type === 'i32' ? 'selectI' : 'selectF', this, a, sample.like(no));
  }
}

/**
 * Scalar arithmetic as nodes in static single assignment; equal nodes are one node. A program of its stores is made for a
 * machine by `toWasm`, `toWgsl`, `interpret`.
 *
 * @example
 * const g = new Graph();
 * const at = g.lane();
 * // Falls for a step, and comes to rest at the ground.
 * const y = g.load('y', at).sub(g.uniform('speed').mul(g.uniform('step'))).max(0);
 * g.store('y', y);
 */
export class Graph {
  private readonly nodes = new Map<string, Expr>();
  private count = 0;
  private readonly active: Loop[] = [];
  private readonly functions = new Map<string, Fn>();
  readonly uniforms: Slot[] = [];
  readonly buffers: Slot[] = [];
  readonly stores: Store[] = [];

  private node(
    kind: NodeKind,
    type: Type,
    args: readonly Expr[],
    imm: number,
    scope: Scope,
    fn: Fn | null = null,
    loop: Loop | null = null,
  ): Expr {
    const bits = Object.is(imm, -0) ? '-0' : String(imm);
    const unique = loop && kind !== 'loopResult' ? `#${String(this.count)}` : '';
    const key = `${kind}:${type}:${bits}:${fn ? fn.name : ''}:${args.map((a) => a.id).join()}${unique}`;
    const known = this.nodes.get(key);
    if (known) return known;
    for (const arg of args) {
      if (arg.graph !== this) throw new Error(`kernel: '${kind}' mixes nodes of two graphs`);
    }
    const made = new Expr(this, this.count++, kind, type, args, imm, scope, fn, loop);
    this.nodes.set(key, made);
    return made;
  }

  float = (value: number): Expr => this.node('const', 'f32', [], Math.fround(value), INVARIANT);
  int = (value: number): Expr => this.node('const', 'i32', [], value | 0, INVARIANT);

  /** The number of the lane: which particle, which pixel. */
  lane = (): Expr => this.node('lane', 'i32', [], 0, LANE);

  /** A parameter of a function; see functionOf. */
  param(type: Type, index: number): Expr {
    return this.node('param', type, [], index, LANE);
  }

  uniform(name: string, type: 'f32' | 'i32' = 'f32'): Expr {
    return this.node('uniform', type, [], slot(this.uniforms, name, type), INVARIANT);
  }

  /** Reads `buffer[index]`. An index of lane plus what is the same in all lanes is one load for four lanes. */
  load(buffer: string, index: Expr, type: 'f32' | 'i32' = 'f32'): Expr {
    const scope = deepest([index]);
    return this.node('load', type, [index], slot(this.buffers, buffer, type), scope);
  }

  /** Writes `value` to `buffer[lane]` when the run is over for these lanes. */
  store(buffer: string, value: Expr, mask: Expr | null = null): void {
    const type = value.type === 'i32' ? 'i32' : 'f32';
    const at = slot(this.buffers, buffer, type);
    // What stands there already need not be put there again: most forces leave much as it is.
    const own = value.kind === 'load' && value.imm === at && value.args[0]!.kind === 'lane';
    if (own && !this.stores.some((s) => s.buffer === at)) return;
    this.stores.push({ buffer: at, value, mask });
  }

  op(name: OperationName, ...args: Expr[]): Expr {
    return this.apply(name, args, 0);
  }

  shift(name: 'shl' | 'shrU' | 'shrS', value: Expr, amount: number): Expr {
    return this.apply(name, [value], amount);
  }

  private apply(name: OperationName, args: Expr[], imm: number): Expr {
    const { args: types, type, evaluate } = operation(name);
    types.forEach((wanted, i) => {
      if (args[i]?.type !== wanted) {
        throw new Error(
          `kernel: '${name}' wants ${types.join()}, got ${args.map((a) => a.type).join()}`,
        );
      }
    });
    if (args.every((a) => a.kind === 'const') && type !== 'bool') {
      const values: Scalar[] = args.map((a) => a.imm);
      if (SHIFTS.has(name)) values.push(imm);
      const value = evaluate(...values);
      if (Number.isFinite(value)) return type === 'i32' ? this.int(value) : this.float(value);
    }
    const [a, b] = args;
    if ((name === 'mulF' || name === 'divF') && isConst(b, 1)) return a!;
    if (name === 'mulF' && isConst(a, 1)) return b!;
    if ((name === 'addI' || name === 'xorI') && isConst(b, 0)) return a!;
    if (name === 'subF' && isConst(b, 0) && !Object.is(b!.imm, -0)) return a!;
    return this.node(name, type, args, imm, deepest(args));
  }

  /**
   * A text that two graphs share just when they compile to the same code: all nodes in the order
   * they were made, how loops go on, and what is stored. Functions go by their names.
   */
  signature(): string {
    const id = (e: Expr | null): string => (e ? String(e.id) : '');
    const parts: string[] = [];
    for (const [key, { kind, loop }] of this.nodes) {
      parts.push(key);
      if (kind !== 'loop') continue;
      parts.push([loop!.count, ...loop!.initial, ...loop!.results, loop!.goOn].map(id).join());
    }
    const stores = this.stores.map((s) => `${s.buffer},${id(s.value)},${id(s.mask)}`);
    const slots = [...this.buffers, ...this.uniforms].map((s) => s.type);
    return [...parts, ...stores, this.buffers.length, ...slots].join(';');
  }

  /** Makes a function once per name; `build` gets a graph of its own and the parameters. */
  define(
    name: string,
    types: readonly Type[],
    build: (graph: Graph, ...params: Expr[]) => Expr[],
  ): (...args: Expr[]) => Expr[] {
    const made = this.functions.get(name) ?? functionOf(name, types, build);
    this.functions.set(name, made);
    return (...args) => {
      const call = this.node('call', 'f32', args, 0, this.innermost(args), made);
      return made.results.map((result, i) =>
        this.node('callResult', result.type, [call], i, call.scope),
      );
    };
  }

  /**
   * A counted loop. `body` gets the turn (i32, from 0) and the carried values, and gives the next
   * ones; the result is the carried values at the end. Where `count` varies by lane, four lanes may
   * turn as often as the busiest of them: what the idle ones compute is dropped, but their loads
   * are done, so indices have to be clamped to what is there.
   */
  loop(count: Expr, initial: Expr[], body: (turn: Expr, carried: Expr[]) => Expr[]): Expr[] {
    return this.loopWhile(count, initial, (turn, carried) => ({
      next: body(turn, carried),
      goOn: null,
    }));
  }

  /** A loop that each lane leaves as soon as `goOn` is false after a turn, or after `most` turns. */
  loopWhile(
    most: Expr,
    initial: Expr[],
    body: (turn: Expr, carried: Expr[]) => { next: Expr[]; goOn: Expr | null },
  ): Expr[] {
    const depth = (this.active.at(-1)?.depth ?? LANE.depth) + 1;
    const loop = { depth, count: most, initial } as Loop;
    loop.index = this.node('loopIndex', 'i32', [], 0, loop, null, loop);
    loop.values = initial.map((e, i) => this.node('loopValue', e.type, [], i, loop, null, loop));
    this.active.push(loop);
    const { next, goOn } = body(loop.index, loop.values);
    Object.assign(loop, { results: next, goOn });
    this.active.pop();
    const scope = this.active.at(-1) ?? LANE;
    const node = this.node('loop', 'f32', [], 0, scope, null, loop);
    return initial.map((e, i) => this.node('loopResult', e.type, [node], i, scope, null, loop));
  }

  private innermost(args: readonly Expr[]): Scope {
    const scope = deepest(args);
    return scope.depth === 0 ? LANE : scope;
  }
}

/** A function of its own, for a reader that writes functions. */
export function functionOf(
  name: string,
  types: readonly Type[],
  build: (graph: Graph, ...params: Expr[]) => Expr[],
): Fn {
  const graph = new Graph();
  const params = types.map((type, i) => graph.param(type, i));
  return { name, graph, params, results: build(graph, ...params) };
}

function slot(slots: Slot[], name: string, type: 'f32' | 'i32'): number {
  const at = slots.findIndex((s) => s.name === name);
  if (at < 0) return slots.push({ name, type }) - 1;
  if (slots[at]!.type !== type) throw new Error(`kernel: '${name}' is used with two types`);
  return at;
}

function deepest(args: readonly Expr[]): Scope {
  return args.reduce<Scope>((s, a) => (a.scope.depth > s.depth ? a.scope : s), INVARIANT);
}

function isConst(e: Expr | undefined, value: number): boolean {
  return e?.kind === 'const' && e.imm === value;
}
