import jsep, {
  type BinaryExpression,
  type Expression,
  type Literal,
  type UnaryExpression,
} from 'jsep';

/** Units that can be typed, in the dial's own unit. */
const UNITS: Readonly<Record<string, Readonly<Record<string, number>>>> = {
  s: { s: 1, ms: 1e-3, min: 60 },
  '°': { deg: 1, rad: 180 / Math.PI, turn: 360 },
  '°/s': { deg: 1, rad: 180 / Math.PI, turn: 360 },
  m: { m: 1, cm: 0.01, mm: 0.001 },
};

/**
 * Reads what was typed into a dial: a number, a simple sum, with a unit or without: `0.5`,
 * `48f` (frames, for seconds), `90deg`, `3cm`, `2*(1+0.5)`. Null for anything else.
 */
export function readAmount(text: string, unit: string, rate: number): number | null {
  const known: Record<string, number> = { ...UNITS[unit] };
  if (unit === 's') known.f = 1 / rate;
  const match = /^(.*?)\s*([a-z°%][a-z°/²]*)?$/i.exec(
    text.trim().replace(/(\d)[\s,](?=\d{3}\b)/g, '$1'),
  );
  if (!match?.[1]) return null;
  const name = match[2];
  if (name && name !== unit && known[name] === undefined) return null;
  try {
    const value = evaluate(jsep(match[1]));
    return Number.isFinite(value) ? value * (name ? (known[name] ?? 1) : 1) : null;
  } catch {
    return null;
  }
}

function evaluate(node: Expression): number {
  switch (node.type) {
    case 'Literal':
      return Number((node as Literal).value);
    case 'UnaryExpression': {
      const { operator, argument } = node as UnaryExpression;
      return operator === '-' ? -evaluate(argument) : evaluate(argument);
    }
    case 'BinaryExpression': {
      const { operator, left, right } = node as BinaryExpression;
      const [a, b] = [evaluate(left), evaluate(right)];
      if (operator === '+') return a + b;
      if (operator === '-') return a - b;
      if (operator === '*') return a * b;
      if (operator === '/') return a / b;
      return NaN;
    }
    default:
      return NaN;
  }
}

/** A number as a dial shows it: four digits that count, thousands apart. */
export function showAmount(value: number, whole = false): string {
  if (whole || Math.abs(value) >= 1000) {
    // Asked at every frame: Intl would take a hundred times as long.
    return String(Math.round(value)).replace(/(?<=\d)(?=(\d{3})+$)/g, ' ');
  }
  return String(Number(value.toPrecision(4)));
}
