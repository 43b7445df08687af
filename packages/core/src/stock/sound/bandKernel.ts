import { encode } from '@vast-swarm/kernel';
import type { Biquad } from './biquad';

/** Most samples at once. */
export const BLOCK = 2048;
/** Filters in a row that each of the two bands has at the most; those that it has not let all through. */
const FILTERS = 4;
/** Where things stand in memory, in bytes: the samples, then two numbers each, one a band. */
const COEFFICIENTS = 8 * BLOCK;
const STATES = COEFFICIENTS + 16 * 5 * FILTERS;
const SUMS = STATES + 16 * 3 * FILTERS;
const TOPS = SUMS + 16;

const { at, constI32, get, OP, set, simd, SIMD, V128, I32 } = encode;
const [LOAD_SPLAT, ABS, ADD, SUB, MUL, MAX] = [0x0a, 0xec, 0xf0, 0xf1, 0xf2, 0xf5].map((o) =>
  simd(o),
) as [number[], number[], number[], number[], number[], number[]];

/** Locals of `run`: where it is in memory and where it ends, then all numbers of the filters. */
const [BEGIN, END, SUM, TOP, SQUARED] = [0, 1, 2, 3, 4];
const coefficient = (filter: number, k: number): number => 5 + 5 * filter + k;
const state = (filter: number, k: number): number => 5 + 5 * FILTERS + 2 * filter + k;
/** What filter `k` leaves; 0 is what comes in. */
const signal = (k: number): number => 5 + 7 * FILTERS + k;
const LOCALS = 3 + 8 * FILTERS + 1;

/** Locals that are kept in memory from one run to the next, and those that are only read. */
function placesOf(): { kept: [number, number][]; read: [number, number][] } {
  const kept: [number, number][] = [
    [SUM, SUMS],
    [TOP, TOPS],
  ];
  const read: [number, number][] = [];
  for (let f = 0; f < FILTERS; f++) {
    for (let k = 0; k < 5; k++) read.push([coefficient(f, k), COEFFICIENTS + 16 * (5 * f + k)]);
    for (let k = 0; k < 2; k++) kept.push([state(f, k), STATES + 16 * (3 * f + k)]);
    kept.push([signal(f + 1), STATES + 16 * (3 * f + 2)]);
  }
  return { kept, read };
}

/**
 * One sample through all filters, the last first: each takes what the one before it left of the sample before, so
 * that none waits for another. What comes out is as many samples late as there are filters but one.
 */
function oneSample(): number[] {
  const times = (filter: number, k: number, of: number): number[] => [
    ...[...get(coefficient(filter, k)), ...get(of), ...MUL],
  ];
  const filters = Array.from({ length: FILTERS }, (_, i) => {
    const f = FILTERS - 1 - i;
    const [x, y] = [signal(f), signal(f + 1)];
    return [
      ...[...times(f, 0, x), ...get(state(f, 0)), ...ADD, ...set(y)],
      ...[...times(f, 1, x), ...times(f, 3, y), ...SUB, ...get(state(f, 1)), ...ADD],
      ...set(state(f, 0)),
      ...[...times(f, 2, x), ...times(f, 4, y), ...SUB, ...set(state(f, 1))],
    ];
  }).flat();
  const out = signal(FILTERS);
  return [
    ...[...get(BEGIN), ...LOAD_SPLAT, ...at(0), ...set(signal(0))],
    ...filters,
    ...[...get(out), ...get(out), ...MUL, ...set(SQUARED)],
    ...[...get(SUM), ...get(SQUARED), ...ADD, ...set(SUM)],
    ...[...get(TOP), ...get(out), ...ABS, ...MAX, ...set(TOP)],
  ];
}

/**
 * A module whose `run(begin, end)` takes samples between two bytes of its memory through the filters of two bands,
 * side by side, and adds up their squares and finds the largest.
 */
function moduleBytes(): number[] {
  const { kept, read } = placesOf();
  const code = [
    ...[...kept, ...read].flatMap(([local, place]) => [
      ...[...constI32(0), ...simd(SIMD.load), ...at(place), ...set(local)],
    ]),
    ...OP.loop,
    ...oneSample(),
    ...[...get(BEGIN), ...constI32(8), ...OP.addI32, ...set(BEGIN)],
    ...[...get(BEGIN), ...get(END), ...OP.ltS, ...OP.branchIf(0), ...OP.end],
    ...kept.flatMap(([local, place]) => [
      ...[...constI32(0), ...get(local), ...simd(SIMD.store), ...at(place)],
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
    ...section(1, vector([functionType([I32, I32], [])])),
    ...section(3, vector([[0]])),
    ...section(5, vector([[0x00, 0x01]])),
    ...section(7, vector(exported)),
    ...section(10, vector([[...unsigned(body.length), ...body]])),
  ];
}

let compiled: WebAssembly.Module | null = null;

/** What rings below any hearing would slow the processor down. */
const STILL = 1e-30;

/**
 * The filters of two bands, side by side: the arithmetic of `Biquad`. What comes out is three samples late, of any
 * filters.
 */
export class BandPair {
  /** Samples that are to be filtered, BLOCK at the most. */
  readonly block: Float64Array;
  private readonly states: Float64Array;
  private readonly found: Float64Array;
  private readonly runBetween: (begin: number, end: number) => void;

  constructor(filters: readonly [readonly Biquad[], readonly Biquad[]]) {
    compiled ??= new WebAssembly.Module(Uint8Array.from(moduleBytes()));
    const { exports } = new WebAssembly.Instance(compiled);
    const { buffer } = exports.memory as WebAssembly.Memory;
    this.runBetween = exports.run as (begin: number, end: number) => void;
    this.block = new Float64Array(buffer, 0, BLOCK);
    this.states = new Float64Array(buffer, STATES, 6 * FILTERS);
    this.found = new Float64Array(buffer, SUMS, 4);
    const coefficients = new Float64Array(buffer, COEFFICIENTS, 10 * FILTERS);
    for (let f = 0; f < FILTERS; f++) {
      filters.forEach((band, lane) => {
        const { b0, b1, b2, a1, a2 } = band[f] ?? { b0: 1, b1: 0, b2: 0, a1: 0, a2: 0 };
        [b0, b1, b2, a1, a2].forEach((c, k) => (coefficients[2 * (5 * f + k) + lane] = c));
      });
    }
  }

  /** Filters samples of the block. */
  run(begin: number, end: number): void {
    if (end > begin) this.runBetween(8 * begin, 8 * end);
  }

  /** Of a band: the sum of squares and the largest of what was let through since the last `rest`. */
  sum(lane: 0 | 1): number {
    return this.found[lane]!;
  }

  top(lane: 0 | 1): number {
    return this.found[2 + lane]!;
  }

  /** Begins both anew. */
  rest(): void {
    this.found.fill(0);
    const { states } = this;
    for (let i = 0; i < states.length; i++) if (Math.abs(states[i]!) < STILL) states[i] = 0;
  }
}
