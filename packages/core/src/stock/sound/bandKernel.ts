import { encode } from '@vast-swarm/kernel';
import type { Biquad } from './biquad';

/** Most samples at once. */
export const BLOCK = 2048;
/** Filters in a row that every band has: two high passes, two low passes. */
const FILTERS = 4;
/**
 * Where things of a pair of bands stand in its part of the memory, in bytes, two numbers each, one a band. The
 * samples stand before all pairs.
 */
const COEFFICIENTS = 0;
const STATES = COEFFICIENTS + 16 * 2 * FILTERS;
const SUMS = STATES + 16 * 3 * FILTERS;
const TOPS = SUMS + 16;
const PAIR = TOPS + 16;
const PAGE = 65_536;

const { at, constI32, get, OP, set, simd, SIMD, V128, I32 } = encode;
const [LOAD_SPLAT, ABS, ADD, SUB, MUL, MAX] = [0x0a, 0xec, 0xf0, 0xf1, 0xf2, 0xf5].map((o) =>
  simd(o),
) as [number[], number[], number[], number[], number[], number[]];

/** Locals of `run`: where it is in memory and where it ends, its pair, then all numbers of the filters. */
const [BEGIN, END, OF, SUM, TOP] = [0, 1, 2, 3, 4];
const coefficient = (filter: number, k: number): number => 5 + 2 * filter + k;
const state = (filter: number, k: number): number => 5 + 2 * FILTERS + 2 * filter + k;
/** Place of the output of filter `k`; 0 is the input. */
const signal = (k: number): number => 5 + 4 * FILTERS + k;
const LOCALS = 2 + 5 * FILTERS + 1;

/** Locals that are kept in memory from one run to the next, and those that are only read. */
function placesOf(): { kept: [number, number][]; read: [number, number][] } {
  const kept: [number, number][] = [
    [SUM, SUMS],
    [TOP, TOPS],
  ];
  const read: [number, number][] = [];
  for (let f = 0; f < FILTERS; f++) {
    for (let k = 0; k < 2; k++) {
      read.push([coefficient(f, k), COEFFICIENTS + 16 * (2 * f + k)]);
      kept.push([state(f, k), STATES + 16 * (3 * f + k)]);
    }
    kept.push([signal(f + 1), STATES + 16 * (3 * f + 2)]);
  }
  return { kept, read };
}

/**
 * One sample through a filter whose zeros lie at the lowest frequency (high pass) or the highest, without its
 * gain: y = x + s1, then s1 = s2 ∓ 2 x - a1 y, s2 = x - a2 y.
 */
function oneFilter(filter: number): number[] {
  const [x, y] = [signal(filter), signal(filter + 1)];
  const feedback = (k: number): number[] => [...get(coefficient(filter, k)), ...get(y), ...MUL];
  return [
    ...get(x),
    ...get(state(filter, 0)),
    ...ADD,
    ...set(y),
    ...get(state(filter, 1)),
    ...get(x),
    ...get(x),
    ...ADD,
    ...(filter < FILTERS / 2 ? SUB : ADD),
    ...feedback(0),
    ...SUB,
    ...set(state(filter, 0)),
    ...get(x),
    ...feedback(1),
    ...SUB,
    ...set(state(filter, 1)),
  ];
}

/**
 * One sample through all filters, the last first: each takes what the one before it left of the sample before, so
 * that none waits for another. What comes out is as many samples late as there are filters but one.
 */
function oneSample(): number[] {
  const out = signal(FILTERS);
  return [
    ...get(BEGIN),
    ...LOAD_SPLAT,
    ...at(0),
    ...set(signal(0)),
    ...Array.from({ length: FILTERS }, (_, i) => oneFilter(FILTERS - 1 - i)).flat(),
    ...get(SUM),
    ...get(out),
    ...get(out),
    ...MUL,
    ...ADD,
    ...set(SUM),
    ...get(TOP),
    ...get(out),
    ...ABS,
    ...MAX,
    ...set(TOP),
  ];
}

/**
 * A module whose `run(begin, end, pair)` takes samples between two bytes of its memory through the filters of two
 * bands, side by side, and adds up their squares and finds the largest.
 */
function moduleBytes(pages: number): number[] {
  const { kept, read } = placesOf();
  const code = [
    ...[...kept, ...read].flatMap(([local, place]) => [
      ...get(OF),
      ...simd(SIMD.load),
      ...at(place),
      ...set(local),
    ]),
    ...OP.loop,
    ...oneSample(),
    ...get(BEGIN),
    ...constI32(8),
    ...OP.addI32,
    ...set(BEGIN),
    ...get(BEGIN),
    ...get(END),
    ...OP.ltS,
    ...OP.branchIf(0),
    ...OP.end,
    ...kept.flatMap(([local, place]) => [
      ...get(OF),
      ...get(local),
      ...simd(SIMD.store),
      ...at(place),
    ]),
    ...OP.end,
  ];
  const { vector, section, text, unsigned, functionType, HEADER } = encode;
  const body = [...vector([[...unsigned(LOCALS), V128]]), ...code];
  const exported = [
    [...text('run'), 0x00, 0x00],
    [...text('memory'), 0x02, 0x00],
  ];
  return [
    ...HEADER,
    ...section(1, vector([functionType([I32, I32, I32], [])])),
    ...section(3, vector([[0]])),
    ...section(5, vector([[0x00, ...unsigned(pages)]])),
    ...section(7, vector(exported)),
    ...section(10, vector([[...unsigned(body.length), ...body]])),
  ];
}

/** Modules by their pages. */
const compiled = new Map<number, WebAssembly.Module>();

/** Ringing below any hearing is cut to 0: numbers as small as that slow the processor down. */
const STILL = 1e-30;

/** A filter that lets all through: its zeros lie on its poles. */
const THROUGH = { high: { a1: -2, a2: 1 }, low: { a1: 2, a2: 1 } };

/** The filters of many bands, two side by side. What comes out is three samples late, of any filters. */
export class BandBank {
  /** Samples that are to be filtered, BLOCK at the most. */
  readonly block: Float64Array;
  /** All of a pair, as numbers. */
  private readonly pairs: Float64Array[];
  private readonly gains: number[];
  private readonly runBetween: (begin: number, end: number, pair: number) => void;

  /** @param bands the filters of each as `bandFilter` gives them */
  constructor(bands: readonly (readonly Biquad[])[]) {
    const count = Math.ceil(bands.length / 2);
    const pages = Math.ceil((8 * BLOCK + count * PAIR) / PAGE);
    const module =
      compiled.get(pages) ?? new WebAssembly.Module(Uint8Array.from(moduleBytes(pages)));
    compiled.set(pages, module);
    const { exports } = new WebAssembly.Instance(module);
    const { buffer } = exports.memory as WebAssembly.Memory;
    this.runBetween = exports.run as typeof this.runBetween;
    this.block = new Float64Array(buffer, 0, BLOCK);
    this.pairs = Array.from(
      { length: count },
      (_, k) => new Float64Array(buffer, 8 * BLOCK + k * PAIR, PAIR / 8),
    );
    this.gains = bands.map((filters) => filters.reduce((all, { b0 }) => all * b0, 1));
    for (let band = 0; band < 2 * count; band++) this.place(band, bands[band] ?? []);
  }

  private place(band: number, filters: readonly Biquad[]): void {
    const highs = filters.filter(({ b1 }) => b1 < 0);
    const lows = filters.filter(({ b1 }) => b1 > 0);
    for (let f = 0; f < FILTERS; f++) {
      const high = f < FILTERS / 2;
      const { a1, a2 } = high ? (highs[f] ?? THROUGH.high) : (lows[f - FILTERS / 2] ?? THROUGH.low);
      const place = COEFFICIENTS / 8 + 4 * f + (band & 1);
      this.pairs[band >> 1]![place] = a1;
      this.pairs[band >> 1]![place + 2] = a2;
    }
  }

  /** Filters samples of the block. */
  run(begin: number, end: number): void {
    if (end <= begin) return;
    for (let k = 0; k < this.pairs.length; k++) {
      this.runBetween(8 * begin, 8 * end, 8 * BLOCK + k * PAIR);
    }
  }

  /** Of a band: the sum of squares of what was let through since the last `rest`. */
  sum(band: number): number {
    return this.pairs[band >> 1]![SUMS / 8 + (band & 1)]! * this.gains[band]! ** 2;
  }

  /** And the largest. */
  top(band: number): number {
    return this.pairs[band >> 1]![TOPS / 8 + (band & 1)]! * this.gains[band]!;
  }

  /** Begins both anew. */
  rest(): void {
    for (const pair of this.pairs) {
      for (let i = SUMS / 8; i < PAIR / 8; i++) pair[i] = 0;
    }
  }

  /** Ends what rings on below any hearing. */
  calm(): void {
    for (const pair of this.pairs) {
      for (let i = STATES / 8; i < SUMS / 8; i++) if (Math.abs(pair[i]!) < STILL) pair[i] = 0;
    }
  }
}
