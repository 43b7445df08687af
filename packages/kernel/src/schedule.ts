import type { Expr, Fn, Loop, Scope, Store } from './graph';

/**
 * The order in which a reader emits nodes, and where: those that results need, by scope and in an order in
 * which each stands behind what it reads.
 */
export interface Schedule {
  /** Nodes of one scope in the order of emission. */
  in(scope: Scope): readonly Expr[];
  /** How often a node is read; one that is read once can be written where it is read. */
  uses(node: Expr): number;
  /** A node that is read once, by a node of its own scope, and only computes. */
  inlined(node: Expr): boolean;
  /** All nodes, each once. */
  readonly nodes: Iterable<Expr>;
  readonly functions: readonly Fn[];
}

/** Inputs of a node; those of a loop are what its body reads from outside, and its body's results. */
function inputs(node: Expr): readonly Expr[] {
  if (node.kind !== 'loop') return node.args;
  const { count, initial, results, goOn } = node.loop!;
  return [count, ...initial, ...results, ...(goOn ? [goOn] : [])];
}

export function schedule(roots: readonly Expr[]): Schedule {
  const uses = new Map<Expr, number>();
  const only = new Map<Expr, Scope>();
  const functions: Fn[] = [];
  const scopes = new Map<Scope, Expr[]>();
  const visit = (node: Expr): void => {
    const seen = uses.get(node) ?? 0;
    uses.set(node, seen + 1);
    if (seen > 0) return;
    for (const arg of inputs(node)) {
      // A loop's results are read in the scope of the loop, everything else in the reader's own.
      only.set(arg, node.kind === 'loop' ? (node.loop as Loop) : node.scope);
      visit(arg);
    }
    const list = scopes.get(node.scope) ?? [];
    list.push(node);
    scopes.set(node.scope, list);
    if (node.kind === 'call' && !functions.includes(node.fn!)) addFunction(node.fn!, functions);
  };
  for (const root of roots) visit(root);
  for (const list of scopes.values()) list.sort((a, b) => a.id - b.id);
  const plain = (node: Expr): boolean =>
    !['load', 'call', 'callResult', 'loop', 'loopResult', 'lane'].includes(node.kind);
  return {
    in: (scope) => scopes.get(scope) ?? [],
    uses: (node) => uses.get(node) ?? 0,
    inlined: (node) => plain(node) && uses.get(node) === 1 && only.get(node) === node.scope,
    nodes: uses.keys(),
    functions,
  };
}

function addFunction(fn: Fn, into: Fn[]): void {
  for (const inner of schedule(fn.results).functions) {
    if (!into.includes(inner)) into.push(inner);
  }
  into.push(fn);
}

export function storeRoots(stores: readonly Store[]): Expr[] {
  return stores.flatMap((s) => (s.mask ? [s.value, s.mask] : [s.value]));
}
