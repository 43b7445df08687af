import '@vast-swarm/core/content';
import { Building } from '../src/engine/building';

let now = 0;
beforeEach(() => {
  now = 1000;
  jest.spyOn(performance, 'now').mockImplementation(() => now);
});
afterEach(() => jest.restoreAllMocks());

function made() {
  const asked = new Int32Array(new SharedArrayBuffer(4));
  const told: [string, number][] = [];
  return { asked, told, building: new Building(asked, (...said) => told.push(said)) };
}

test('what is soon done is neither told nor left off, whatever is asked for meanwhile', () => {
  const { asked, told, building } = made();
  const given = building.during(() => {
    Atomics.add(asked, 0, 1);
    now += 400;
    building.reportProgress('strokes', 0.5);
    return 'plan';
  });
  expect(given).toBe('plan');
  expect(told).toEqual([]);
});

test('what takes long is told, with its end, and is not done before it is', () => {
  const { told, building } = made();
  building.during(() => {
    now += 600;
    building.reportProgress('strokes', 0.25);
    building.reportProgress('', 0.5);
    building.reportProgress('strokes', 1);
  });
  expect(told).toEqual([
    ['strokes', 0.25],
    ['strokes', 0.99],
    ['', 1],
  ]);
});

test('it is left off as soon as something else is asked for, and the next one is not', () => {
  const { asked, told, building } = made();
  const steps: number[] = [];
  const work = (): string => {
    for (let k = 0; k < 10; k++) {
      now += 200;
      steps.push(k);
      if (steps.length === 4) Atomics.add(asked, 0, 1);
      building.reportProgress('strokes', k / 10);
    }
    return 'plan';
  };
  expect(building.during(work)).toBeNull();
  expect(steps).toEqual([0, 1, 2, 3]);
  expect(told.at(-1)).toEqual(['', 1]);
  expect(building.during(work)).toBe('plan');
});

test("what is wrong with a piece is thrown as it is; long work outside of building is nobody's", () => {
  const { asked, told, building } = made();
  expect(() =>
    building.during(() => {
      throw new RangeError('too many');
    }),
  ).toThrow(RangeError);
  Atomics.add(asked, 0, 1);
  now += 10_000;
  building.reportProgress('a frame', 0.5);
  expect(told).toEqual([]);
});
