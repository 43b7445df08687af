import { INVARIANT, LANE, type Expr, type Fn, type Graph, type Scope } from './graph';
import { floatBits, operation, SHIFTS, type OperationName, type Type } from './ops';
import { schedule, storeRoots, type Schedule } from './schedule';
import { paramWord, paramWords } from './wasm';

export const WORKGROUP = 64;
/** Workgroups in one row of a dispatch; larger kernels take more rows. */
export const ROW = 1024;

/**
 * Writes a WGSL compute shader with entry point `main`, one lane to an invocation.
 *
 * Group 0: binding 0 is all buffers in one array of f32, binding 1 the parameter block (see
 * paramWord; words 0 and 1 are the first and last lane). Division and square root are as exact as
 * WGSL asks (2.5 units in the last place), and the device may fuse multiply and add.
 */
export function toWgsl(graph: Graph): string {
  const plan = schedule(storeRoots(graph.stores));
  const body = new Writer(graph, plan);
  body.scope(INVARIANT);
  body.scope(LANE);
  for (const { buffer, value, mask } of graph.stores) {
    const text = body.read(value);
    const bits = value.type === 'i32' ? `bitcast<f32>(${text})` : text;
    const line = `memory[${body.word('buffer', buffer)} + lane] = ${bits};`;
    body.lines.push(mask ? `if (${body.read(mask)}) { ${line} }` : line);
  }
  const quads = Math.ceil(paramWords(graph) / 4);
  return `var<private> nothing: f32 = 0.0;
${plan.functions.map(wgslFunction).join('\n')}
@group(0) @binding(0) var<storage, read_write> memory: array<f32>;
@group(0) @binding(1) var<uniform> params: array<vec4<i32>, ${String(quads)}>;
@compute @workgroup_size(${String(WORKGROUP)})
fn main(@builtin(global_invocation_id) id: vec3<u32>) {
  let lane = params[0].x + i32(id.x + id.y * ${String(ROW * WORKGROUP)}u);
  if (lane >= params[0].y) { return; }
${body.lines.map((l) => `  ${l}`).join('\n')}
}
`;
}

const NAME: Record<Type, string> = { f32: 'f32', i32: 'i32', bool: 'bool' };

/** Functions of one result as WGSL text, each with the ones that it calls, to be called `<name>_`. */
export function wgslFunctions(functions: readonly Fn[]): string {
  const all = new Set(functions.flatMap((fn) => [...schedule(fn.results).functions, fn]));
  return [...all].map(wgslFunction).join('\n');
}

/** A named function as WGSL text; it gives a struct `<name>_out` with fields r0, r1, …. */
function wgslFunction(fn: Fn): string {
  const plan = schedule(fn.results);
  const body = new Writer(fn.graph, plan);
  body.scope(INVARIANT);
  body.scope(LANE);
  const fields = fn.results.map((r, i) => `r${String(i)}: ${NAME[r.type]}`).join(', ');
  const params = fn.params.map((p, i) => `p${String(i)}: ${NAME[p.type]}`).join(', ');
  const results = fn.results.map((r) => body.read(r)).join(', ');
  return `struct ${fn.name}_out { ${fields} }
fn ${fn.name}(${params}) -> ${fn.name}_out {
${body.lines.map((l) => `  ${l}`).join('\n')}
  return ${fn.name}_out(${results});
}
`;
}

class Writer {
  readonly lines: string[] = [];
  private readonly homes = new Map<Expr, string>();

  constructor(
    private readonly graph: Graph,
    private readonly plan: Schedule,
  ) {}

  word(kind: 'buffer' | 'uniform', index: number): string {
    const word = paramWord(this.graph, kind, index);
    return `params[${String(word >> 2)}].${'xyzw'[word & 3]!}`;
  }

  scope(scope: Scope): void {
    for (const node of this.plan.in(scope)) {
      if (!this.plan.inlined(node)) this.emit(node);
    }
  }

  private emit(node: Expr): void {
    if (['param', 'loopIndex', 'loopValue', 'callResult', 'loopResult'].includes(node.kind)) return;
    const name = `n${String(node.id)}`;
    if (node.kind === 'loop') this.emitLoop(node, name);
    else this.lines.push(`let ${name} = ${this.compute(node)};`);
    this.homes.set(node, name);
  }

  private emitLoop(node: Expr, name: string): void {
    const loop = node.loop!;
    loop.initial.forEach((e, i) => {
      const value = `${name}_${String(i)}`;
      this.lines.push(`var ${value} = ${this.read(e)};`);
      this.homes.set(loop.values[i]!, value);
    });
    const turn = `${name}_turn`;
    this.homes.set(loop.index, turn);
    const count = this.read(loop.count);
    this.lines.push(`for (var ${turn} = 0; ${turn} < ${count}; ${turn}++) {`);
    this.scope(loop);
    // All next values are read before the first is written.
    const next = loop.results.map((r) => this.read(r));
    next.forEach((text, i) => this.lines.push(`let ${name}_next${String(i)} = ${text};`));
    if (loop.goOn) this.lines.push(`let ${name}_on = ${this.read(loop.goOn)};`);
    next.forEach((_, i) => this.lines.push(`${name}_${String(i)} = ${name}_next${String(i)};`));
    if (loop.goOn) this.lines.push(`if (!${name}_on) { break; }`);
    this.lines.push('}');
  }

  read(node: Expr): string {
    if (node.kind === 'param') return `p${String(node.imm)}`;
    const from = node.args[0];
    if (node.kind === 'callResult') return `${this.homes.get(from!)!}.r${String(node.imm)}`;
    if (node.kind === 'loopResult') return `${this.homes.get(from!)!}_${String(node.imm)}`;
    return this.homes.get(node) ?? this.compute(node);
  }

  private compute(node: Expr): string {
    switch (node.kind) {
      case 'const':
        return node.type === 'f32' ? floatText(node.imm) : intText(node.imm);
      case 'uniform': {
        const word = this.word('uniform', node.imm);
        return node.type === 'f32' ? `bitcast<f32>(${word})` : word;
      }
      case 'lane':
        return 'lane';
      case 'load': {
        const value = `memory[${this.word('buffer', node.imm)} + ${this.read(node.args[0]!)}]`;
        return node.type === 'i32' ? `bitcast<i32>(${value})` : value;
      }
      case 'call':
        return `${node.fn!.name}(${node.args.map((a) => this.read(a)).join(', ')})`;
      default: {
        let text = operation(node.kind as OperationName).wgsl;
        if (SHIFTS.has(node.kind)) text = text.replace('$n', String(node.imm));
        // Constants that did not fold have no finite result, which WGSL refuses to work out; a variable
        // among them puts that off until it runs.
        const hopeless = node.args.every((a) => a.kind === 'const' && a.type === 'f32');
        return text.replace(/\$(\d)/g, (_, i: string) => {
          const arg = this.read(node.args[Number(i)]!);
          return hopeless ? `(${arg} + nothing)` : arg;
        });
      }
    }
  }
}

function intText(value: number): string {
  return value === -2147483648 ? 'i32(-2147483648)' : `i32(${String(value)})`;
}

/** The shortest decimal that reads back as the same f32; subnormals go by their bits. */
function floatText(value: number): string {
  if (value !== 0 && Math.abs(value) < 1.2e-38) {
    return `bitcast<f32>(${String(floatBits(value))})`;
  }
  return `f32(${String(value)})`;
}
