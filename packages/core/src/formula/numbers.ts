import { hashNumber, unitNumber } from '@vast-swarm/kernel';
import { frameAt } from './frameAt';
import { evaluate, type Algebra } from './evaluate';
import type { Formula, Name } from './parse';

const truth = (is: boolean): number => (is ? 1 : 0);

/** Smooth value noise along a line, -1 to 1: a new value at every whole number. */
export function noiseAt(x: number, key = 0): number {
  return latticeNoise([x], key);
}

/** The same over a lattice of as many dimensions as there are coordinates. */
function latticeNoise([x, ...others]: readonly number[], key: number): number {
  if (x === undefined) return 2 * unitNumber(key) - 1;
  if (!Number.isFinite(x)) return 0;
  const low = Math.floor(x);
  const t = x - low;
  // The last coordinate is what is hashed in the end; those before it make its key.
  const value = (i: number): number => {
    const mixed = (i | 0) ^ key;
    return latticeNoise(others, others.length > 0 ? hashNumber(mixed) : mixed);
  };
  return value(low) + (value(low + 1) - value(low)) * t * t * (3 - 2 * t);
}

/** Formulas on the host. Comparisons give 1 or 0. */
function numbers(name: (name: Name) => number, signal: (id: string) => number): Algebra<number> {
  return {
    number: (v) => v,
    name,
    signal,
    map() {
      throw new Error('Maps are refused in formulas without a particle');
    },
    negate: (a) => -a,
    not: (a) => truth(a === 0),
    choose: (test, yes, no) => (test !== 0 ? yes : no),
    binary: {
      '+': (a, b) => a + b,
      '-': (a, b) => a - b,
      '*': (a, b) => a * b,
      '/': (a, b) => a / b,
      '%': (a, b) => a - b * Math.floor(a / b),
      '^': (a, b) => a ** b,
      '<': (a, b) => truth(a < b),
      '>': (a, b) => truth(a > b),
      '<=': (a, b) => truth(a <= b),
      '>=': (a, b) => truth(a >= b),
      '==': (a, b) => truth(a === b),
      '!=': (a, b) => truth(a !== b),
      '&&': (a, b) => truth(a !== 0 && b !== 0),
      '||': (a, b) => truth(a !== 0 || b !== 0),
    },
    call: {
      sin: Math.sin,
      cos: Math.cos,
      abs: Math.abs,
      sign: Math.sign,
      floor: Math.floor,
      round: (a) => Math.floor(a + 0.5),
      fract: (a) => a - Math.floor(a),
      sqrt: Math.sqrt,
      exp: Math.exp,
      log: Math.log,
      noise: (...at) => latticeNoise(at, 0),
      pick: () => 0,
      min: Math.min,
      max: Math.max,
      atan2: Math.atan2,
      clamp: (a, low, high) => Math.min(high, Math.max(low, a)),
      mix: (a, b, t) => a + (b - a) * t,
      smooth: (low, high, a) => {
        const t = Math.min(1, Math.max(0, (a - low) / (high - low)));
        return t * t * (3 - 2 * t);
      },
    },
  };
}

export interface Moment {
  /** Seconds of the piece. */
  time: number;
  rate: number;
  seed: number;
  /** Another signal at a time; 0 where nothing is said. */
  signal?: (id: string, time: number) => number;
}

/** A formula of the frame's names alone. What has no finite value, as 1 / 0, counts as 0. */
export function formulaAt(formula: Formula, { time, rate, seed, signal }: Moment): number {
  const value = evaluate(
    formula,
    numbers(
      (name) => {
        if (name === 'time') return time;
        if (name === 'frame') return frameAt(time, rate);
        return name === 'seed' ? seed : Math.PI;
      },
      (id) => signal?.(id, time) ?? 0,
    ),
  );
  return Number.isFinite(value) ? value : 0;
}
