import { INVARIANT, LANE, type Expr, type Fn } from './graph';
import { SHIFTS, type OperationName } from './ops';
import { schedule } from './schedule';

/** The operations as AssemblyScript over four lanes; $0, $1, $2 stand for the arguments, $n for a shift. */
const TEXT: Record<OperationName, string> = {
  addF: 'f32x4.add($0, $1)',
  subF: 'f32x4.sub($0, $1)',
  mulF: 'f32x4.mul($0, $1)',
  divF: 'f32x4.div($0, $1)',
  minF: 'f32x4.pmin($0, $1)',
  maxF: 'f32x4.pmax($0, $1)',
  negF: 'f32x4.neg($0)',
  absF: 'f32x4.abs($0)',
  sqrtF: 'f32x4.sqrt($0)',
  floorF: 'f32x4.floor($0)',
  nearestF: 'f32x4.nearest($0)',
  ltF: 'f32x4.lt($0, $1)',
  leF: 'f32x4.le($0, $1)',
  gtF: 'f32x4.gt($0, $1)',
  geF: 'f32x4.ge($0, $1)',
  eqF: 'f32x4.eq($0, $1)',
  addI: 'i32x4.add($0, $1)',
  subI: 'i32x4.sub($0, $1)',
  mulI: 'i32x4.mul($0, $1)',
  minI: 'i32x4.min_s($0, $1)',
  maxI: 'i32x4.max_s($0, $1)',
  andI: 'v128.and($0, $1)',
  orI: 'v128.or($0, $1)',
  xorI: 'v128.xor($0, $1)',
  ltI: 'i32x4.lt_s($0, $1)',
  leI: 'i32x4.le_s($0, $1)',
  gtI: 'i32x4.gt_s($0, $1)',
  geI: 'i32x4.ge_s($0, $1)',
  eqI: 'i32x4.eq($0, $1)',
  andB: 'v128.and($0, $1)',
  orB: 'v128.or($0, $1)',
  notB: 'v128.not($0)',
  toF: 'f32x4.convert_i32x4_s($0)',
  toI: 'i32x4.trunc_sat_f32x4_s($0)',
  shl: 'i32x4.shl($0, $n)',
  shrU: 'i32x4.shr_u($0, $n)',
  shrS: 'i32x4.shr_s($0, $n)',
  selectF: 'v128.bitselect($1, $2, $0)',
  selectI: 'v128.bitselect($1, $2, $0)',
  bitsF: '$0',
  bitsI: '$0',
};

/**
 * A function of one result as AssemblyScript, with the functions that it calls before it: four lanes at
 * a time, the same bits as `toWasm` gives.
 *
 * @throws Error where it has loops or more than one result
 */
export function toAssembly(fn: Fn): string {
  const { functions } = schedule(fn.results);
  const called = functions.map((f) => functionText(f, false));
  return [...called, functionText(fn, true)].join('\n');
}

/** @param inline whether callers take its text in; the build makes a decorator of the comment */
function functionText(fn: Fn, inline: boolean): string {
  const plan = schedule(fn.results);
  const lines: string[] = [];
  const homes = new Map<Expr, string>();
  const read = (node: Expr): string => {
    if (node.kind === 'param') return `p${String(node.imm)}`;
    if (node.kind === 'callResult') return read(node.args[0]!);
    return homes.get(node) ?? compute(node);
  };
  const compute = (node: Expr): string => {
    const args = node.args.map(read);
    switch (node.kind) {
      case 'const':
        return node.type === 'f32'
          ? `f32x4.splat(${Object.is(node.imm, -0) ? '-0.0' : String(node.imm)})`
          : `i32x4.splat(${String(node.imm)})`;
      case 'call':
        return `${node.fn!.name}(${args.join(', ')})`;
      case 'loop':
      case 'loopResult':
        throw new Error(`kernel: '${fn.name}' has a loop, which assembly functions have none of`);
      default: {
        const text = TEXT[node.kind as OperationName];
        const shifted = SHIFTS.has(node.kind) ? text.replace('$n', String(node.imm)) : text;
        return shifted.replace(/\$(\d)/g, (_, i: string) => args[Number(i)]!);
      }
    }
  };
  for (const scope of [INVARIANT, LANE]) {
    for (const node of plan.in(scope)) {
      if (['param', 'callResult'].includes(node.kind) || plan.inlined(node)) continue;
      const text = compute(node);
      lines.push(`  const n${String(node.id)}: v128 = ${text};`);
      homes.set(node, `n${String(node.id)}`);
    }
  }
  const [result, ...others] = fn.results;
  if (!result || others.length > 0) throw new Error(`kernel: '${fn.name}' has not one result`);
  const params = fn.params.map((_, i) => `p${String(i)}: v128`).join(', ');
  return `${inline ? '// @inline\n' : ''}export function ${fn.name}(${params}): v128 {
${lines.join('\n')}
  return ${read(result)};
}
`;
}
