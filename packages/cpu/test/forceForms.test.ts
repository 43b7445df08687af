import type { Vector } from '@vast-swarm/core/feeds';
import type { DialValues } from '@vast-swarm/core/kinds';
import { CpuEngine } from '../src';
import { force, near, run, thrown } from './flight';

/** Forces against closed forms: what they come to nearby, at their edges, and over time. */

let engine: CpuEngine;
beforeAll(async () => {
  engine = await CpuEngine.create({ threads: 2 });
});
afterAll(() => engine.close());

const RATES = [24, 60, 120];

describe('attraction', () => {
  const dials = { strength: 3, falloff: 0, arrive: 0.5 };
  const toPoint = (): ReturnType<typeof force> => force('attraction', dials);

  test.each(RATES)('nearer than it arrives within it is a spring: %d frames a second', (rate) => {
    // x'' = −(strength / arrive) x from rest.
    const turn = Math.sqrt(dials.strength / dials.arrive);
    for (const seconds of [0.25, 0.5, 1]) {
      const { p } = run(engine, thrown(0, [toPoint()], [0.4, 0, 0], rate), seconds);
      expect(Math.abs(p[0] - 0.4 * Math.cos(turn * seconds))).toBeLessThan((0.4 * 4) / rate);
    }
  });

  test.each(RATES)('further away it is steady: %d frames a second', (rate) => {
    for (const seconds of [0.25, 0.5]) {
      const { p, v } = run(engine, thrown(0, [toPoint()], [3, 0, 0], rate), seconds);
      near(v[0], -dials.strength * seconds, 1.5 / (rate * seconds));
      near(p[0], 3 - (dials.strength * seconds ** 2) / 2, 0.05);
    }
  });

  test('one step pushes as the way there over the distance, or over what it arrives within', () => {
    for (const arrive of [0.1, 0.5, 2]) {
      for (const x of [0.02, 0.09, 0.3, 0.7, 1.9, 5]) {
        const pull = force('attraction', { ...dials, arrive });
        const { v } = run(engine, thrown(0, [pull], [x, 0, 0], 100), 0.01);
        near(v[0] * 100, (-dials.strength * x) / Math.max(x, arrive), 2e-3);
      }
    }
  });
});

describe('painted flow', () => {
  const strokes = [{ points: [0, 0.5, 1, 0.5], radius: 0.4, strength: 1 }];

  test.each(RATES)('that pushes is met and not overtaken: %d frames a second', (rate) => {
    const [speed, grip] = [0.8, 3];
    const flow = force('brushed', { strokes, acts: 'push', speed, grip });
    // v' = grip (flow − v) from rest: the speed of the flow as it is where it was brushed full.
    for (const seconds of [0.25, 0.5, 1, 1.5]) {
      const { v } = run(engine, thrown(0, [flow], [-1, 0, 0], rate), seconds);
      near(v[0], speed * (1 - Math.exp(-grip * seconds)), 0.03 + 1.5 / rate);
      expect(v[0]).toBeLessThan(1.001 * speed);
    }
    // What is faster than the flow is held back.
    const fast = run(engine, thrown(4, [flow], [-1.5, 0, 0], rate), 0.3);
    near(fast.v[0], speed + (4 - speed) * Math.exp(-grip * 0.3), 0.05 + 1.5 / rate);
  });
});

describe('the region of a force', () => {
  /** How much of a pull down is felt at a place, by its first step. */
  function felt(region: DialValues, at: Vector): number {
    const pull = force('gravity', { strength: 10, direction: [0, -1, 0], ...region });
    return run(engine, thrown(0, [pull], at, 100), 0.01).v[1] / -0.1;
  }
  const smooth = (t: number): number => t * t * (3 - 2 * t);

  test.each([0, 0.05, 0.3, 1])('fades smoothly over its soft edge: %d', (soft) => {
    const size: Vector = [2, 4, 8];
    const shape = { regionCentre: [0.5, 0, 0] as Vector, regionSize: size, regionSoft: soft };
    for (const far of [0, 0.2, 0.6, 0.72, 0.8, 0.9, 0.97, 0.999, 1.001, 1.5]) {
      const wanted = smooth(Math.min(1, Math.max(0, (1 - far) / Math.max(soft, 1e-4))));
      for (const axis of [0, 1, 2]) {
        const at: Vector = [0.5, 0, 0];
        at[axis] = at[axis]! + (far * size[axis]!) / 2;
        for (const region of ['ball', 'box']) {
          expect(felt({ region, ...shape }, at)).toBeCloseTo(wanted, 2);
        }
      }
    }
  });

  test('is round as a ball, and square as a box', () => {
    const shape = { regionSize: [2, 2, 2] as Vector, regionSoft: 0.5 };
    // Two thirds out along each axis: in the box by the furthest axis, in the ball by the whole way.
    const at: Vector = [0.6, 0.6, 0];
    expect(felt({ region: 'box', ...shape }, at)).toBeCloseTo(smooth(0.8), 2);
    expect(felt({ region: 'ball', ...shape }, at)).toBeCloseTo(
      smooth((1 - 0.6 * Math.SQRT2) / 0.5),
      2,
    );
    expect(felt({ region: 'everywhere', ...shape }, [9, 9, 9])).toBeCloseTo(1, 3);
  });
});
