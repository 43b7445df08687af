/** Numbers of single precision as text, straight into bytes: millions of them. */

const [MINUS, POINT, ZERO] = ['-', '.', '0'].map((c) => c.charCodeAt(0)) as [
  number,
  number,
  number,
];

/** Powers of ten that double precision has exactly. */
const POWERS = Float64Array.from({ length: 23 }, (_, k) => Number(`1e${String(k)}`));

/** Between these, digits go without an exponent, and what follows is exact. */
const [LEAST, MOST] = [1e-5, 1e9];

/** Bytes that a number has at the most. */
export const LONGEST = 32;

/**
 * Writes the shortest of 7 to 9 digits that reads back to the same single-precision number.
 *
 * @returns the place behind it
 */
export function writeNumber(value: number, to: Uint8Array, at: number): number {
  if (value === 0) {
    to[at] = ZERO;
    return at + 1;
  }
  const size = Math.abs(value);
  if (!(size >= LEAST && size < MOST)) return writeText(shortest(value), to, at);
  if (value < 0) to[at++] = MINUS;
  let exponent = 0;
  while (size >= POWERS[exponent + 1]!) exponent += 1;
  while (exponent <= 0 && size * POWERS[-exponent]! < 1) exponent -= 1;
  for (let digits = 7; digits <= 9; digits++) {
    const decimals = digits - 1 - exponent;
    const whole = Math.round(decimals >= 0 ? size * POWERS[decimals]! : size / POWERS[-decimals]!);
    // Both are exact, so that this is what the digits read as.
    const back = decimals >= 0 ? whole / POWERS[decimals]! : whole * POWERS[-decimals]!;
    if (digits < 9 && Math.fround(back) !== size) continue;
    return writeDecimal(whole, decimals, to, at);
  }
  return at;
}

/** A whole number up to 1e9 with so many of its digits behind the point; zeros at its end are left out there. */
function writeDecimal(whole: number, decimals: number, to: Uint8Array, at: number): number {
  let left = whole | 0;
  let behind = Math.max(0, decimals);
  for (; decimals < 0; decimals++) left *= 10;
  while (behind > 0 && left % 10 === 0) {
    left = (left / 10) | 0;
    behind -= 1;
  }
  let digits = behind + 1;
  while (digits < POWERS.length && left >= POWERS[digits]!) digits += 1;
  const end = at + digits + (behind > 0 ? 1 : 0);
  for (let k = end - 1; k >= at; k--) {
    if (behind > 0 && k === end - 1 - behind) {
      to[k] = POINT;
      continue;
    }
    const next = (left / 10) | 0;
    to[k] = ZERO + (left - 10 * next);
    left = next;
  }
  return end;
}

/** The same by the engine of the language: slower, for all numbers. */
function shortest(value: number): string {
  for (let digits = 7; digits < 9; digits++) {
    const text = value.toPrecision(digits);
    if (Math.fround(Number(text)) === Math.fround(value)) return String(Number(text));
  }
  return String(Number(value.toPrecision(9)));
}

export function writeText(text: string, to: Uint8Array, at: number): number {
  for (let k = 0; k < text.length; k++) to[at + k] = text.charCodeAt(k);
  return at + text.length;
}
