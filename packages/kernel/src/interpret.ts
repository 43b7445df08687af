import { INVARIANT, LANE, type Expr, type Graph, type Scope } from './graph';
import { operation, SHIFTS, type Scalar } from './ops';
import { schedule, storeRoots, type Schedule } from './schedule';

export type Memory = Record<string, Float32Array | Int32Array>;

/**
 * Runs a kernel lane by lane. Slow and exact: the meaning that the compiled readers are tested
 * against, and good enough for plots.
 *
 * @param memory one array per buffer of the graph, by name
 * @param uniforms one number per uniform of the graph, by name
 */
export function interpret(
  graph: Graph,
  begin: number,
  end: number,
  memory: Memory,
  uniforms: Record<string, number>,
): void {
  const plan = schedule(storeRoots(graph.stores));
  const buffers = graph.buffers.map((b) => {
    const array = memory[b.name];
    if (!array) throw new Error(`kernel: no buffer named '${b.name}'`);
    return array;
  });
  const inputs = graph.uniforms.map((u) => {
    const value = uniforms[u.name];
    if (value === undefined) throw new Error(`kernel: no uniform named '${u.name}'`);
    return u.type === 'i32' ? value | 0 : Math.fround(value);
  });
  for (let lane = begin; lane < end; lane++) {
    const values = new Map<Expr, Scalar>();
    const context: Context = { plan, values, lane, buffers, inputs, params: [], calls: new Map() };
    run(context, INVARIANT);
    run(context, LANE);
    for (const { buffer, value, mask } of graph.stores) {
      if (!mask || values.get(mask)) buffers[buffer]![lane] = values.get(value)!;
    }
  }
}

/** The results of a named function for the given parameters. */
export function interpretFn(results: readonly Expr[], params: readonly Scalar[]): Scalar[] {
  const plan = schedule(results);
  const values = new Map<Expr, Scalar>();
  const context = { plan, values, lane: 0, buffers: [], inputs: [], params, calls: new Map() };
  run(context, INVARIANT);
  run(context, LANE);
  return results.map((r) => values.get(r)!);
}

interface Context {
  plan: Schedule;
  values: Map<Expr, Scalar>;
  lane: number;
  buffers: readonly (Float32Array | Int32Array)[];
  inputs: readonly Scalar[];
  params: readonly Scalar[];
  calls: Map<Expr, Scalar[]>;
}

function run(context: Context, scope: Scope): void {
  for (const node of context.plan.in(scope)) context.values.set(node, evaluate(context, node));
}

function evaluate(context: Context, node: Expr): Scalar {
  const { values } = context;
  const get = (e: Expr): Scalar => values.get(e)!;
  switch (node.kind) {
    case 'const':
      return node.imm;
    case 'uniform':
      return context.inputs[node.imm]!;
    case 'lane':
      return context.lane;
    case 'param':
      return context.params[node.imm]!;
    case 'load':
      return context.buffers[node.imm]![get(node.args[0]!)]!;
    case 'call':
      context.calls.set(node, interpretFn(node.fn!.results, node.args.map(get)));
      return 0;
    case 'callResult':
      return context.calls.get(node.args[0]!)![node.imm]!;
    case 'loop':
      return turn(context, node);
    case 'loopIndex':
    case 'loopValue':
      return get(node);
    case 'loopResult':
      return context.calls.get(node.args[0]!)![node.imm]!;
    default: {
      const args = node.args.map(get);
      if (SHIFTS.has(node.kind)) args.push(node.imm);
      return operation(node.kind).evaluate(...args);
    }
  }
}

function turn(context: Context, node: Expr): Scalar {
  const { values } = context;
  const loop = node.loop!;
  let carried = loop.initial.map((e) => values.get(e)!);
  const count = values.get(loop.count)!;
  for (let i = 0; i < count; i++) {
    values.set(loop.index, i);
    loop.values.forEach((v, k) => values.set(v, carried[k]!));
    run(context, loop);
    carried = loop.results.map((r) => values.get(r)!);
    if (loop.goOn && !values.get(loop.goOn)) break;
  }
  context.calls.set(node, carried);
  return 0;
}
