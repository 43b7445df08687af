import { makePart, makePiece, type Piece } from '@vast-swarm/core/piece';
import { smallPiece } from '../../../tests/support/pieces';
import { isNewcomer, STEPS, storedStep, storeStep } from '../src/walk/steps';

/** What a page keeps between visits. */
const kept = new Map<string, string>();
beforeAll(() => {
  Object.assign(globalThis, {
    localStorage: {
      getItem: (key: string) => kept.get(key) ?? null,
      setItem: (key: string, value: string) => kept.set(key, value),
    },
  });
});
beforeEach(() => {
  kept.clear();
});

const done = (step: number, piece: Piece, before: Piece, undone = false): boolean =>
  STEPS[step]!.done({ piece, before, undone });

test('each step is done by what it asks for, and by nothing else', () => {
  const [empty, small] = [makePiece('Empty'), smallPiece()];
  expect(STEPS).toHaveLength(6);
  // Something is born.
  expect([done(0, empty, empty), done(0, small, empty)]).toEqual([false, true]);
  // A force.
  const still = { ...small, forces: [] };
  expect([done(1, still, still), done(1, small, still)]).toEqual([false, true]);
  // A dial of a swarm: another force is none, nor is the camera.
  const turned = smallPiece((p) => {
    p.swarms[0]!.dials.rate = 5;
  });
  const blown = smallPiece((p) => p.forces.push(makePart('forces', 'wind', [])));
  const aside = smallPiece((p) => {
    p.camera.dials.azimuth = 12;
  });
  expect([turned, blown, aside, small].map((p) => done(2, p, small))).toEqual([
    true,
    false,
    false,
    false,
  ]);
  // Looking round.
  expect([aside, turned].map((p) => done(3, p, small))).toEqual([true, false]);
  expect([done(4, small, small, true), done(4, turned, small)]).toEqual([true, false]);
  // The last one ends where it leads.
  expect(done(5, turned, small, true)).toBe(false);
});

test('the walk is gone on with where it was left, and over once it is done or skipped', () => {
  expect([isNewcomer(), storedStep()]).toEqual([true, null]);
  storeStep(2);
  expect([isNewcomer(), storedStep()]).toEqual([false, 2]);
  storeStep(STEPS.length);
  expect([isNewcomer(), storedStep()]).toEqual([false, null]);
  storeStep(1);
  storeStep(null);
  expect([isNewcomer(), storedStep()]).toEqual([false, null]);
});

test.each(['', 'soon', '-1', '6', '1.5'])("a step '%s' that is none is no walk", (text) => {
  kept.set('vast-swarm.walk', text);
  expect([isNewcomer(), storedStep()]).toEqual([false, text === '' ? 0 : null]);
});
