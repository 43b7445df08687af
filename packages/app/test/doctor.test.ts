import { makePart, type Piece } from '@vast-swarm/core/piece';
import type { Census, MediumCensus } from '@vast-swarm/core/play';
import { smallPiece } from '../../../tests/support/pieces';
import { diagnose } from '../src/doctor/diagnose';
import { diagnoseMedium } from '../src/doctor/diagnoseMedium';

const NONE: Census = { born: 0, alive: 0, inFrame: 0, largeEnough: 0, brightEnough: 0 };

function causes(piece: Piece, census: Partial<Census>, frame: number, exact: boolean) {
  return diagnose(piece, piece.swarms[0]!, { ...NONE, ...census }, { frame, exact }, []);
}

test('nothing alive in a run from before the last change waits for time to start again', () => {
  // As when a playing lattice gets a burst at 0 s and a lifetime of an hour.
  const piece = smallPiece((p) =>
    Object.assign(p.swarms[0]!.dials, { rate: 0, burst: 676, lifetime: 3600 }),
  );
  const [cause] = causes(piece, { born: 300 }, 177, false);
  expect(cause).toMatchObject({ button: 'Start again up to here', again: true });
  expect(cause!.why).toContain('began before the last change');
  expect(causes(piece, {}, 177, false)[0]!.why).toContain('None are born in this run');
});

test('what has died, what is not yet born and what never is are told apart', () => {
  const piece = smallPiece((p) => Object.assign(p.swarms[0]!.dials, { rate: 0, burst: 10 }));
  expect(causes(piece, { born: 10 }, 170, true)[0]!.why).toContain('All have died');
  piece.swarms[0]!.dials.burstAt = 4;
  expect(causes(piece, {}, 30, true)[0]).toMatchObject({
    why: 'Its burst comes at 4 s; this is 1.0 s.',
    mend: [{ path: ['swarms', 0, 'dials', 'burstAt'], value: 0 }],
  });
  piece.swarms[0]!.dials.burst = 0;
  expect(causes(piece, {}, 30, true)[0]!.why).toContain('rate and burst are 0');
});

test('all places of an emitter that has none, and a life for ever that never fades in, are told', () => {
  const piece = smallPiece((p) =>
    Object.assign(p.swarms[0]!.dials, { when: 'once', lasts: 'ever', rate: 0, burst: 0 }),
  );
  const [placeless] = causes(piece, {}, 30, true);
  expect(placeless).toMatchObject({ why: 'Its emitter has no places to give.' });
  expect(placeless!.mend.map((m) => m.value)).toEqual(['bursts', 1000, 0]);
  piece.swarms[0]!.dials.opacity = { feed: 'fixed', value: 0.8, over: [{ x: 0, y: 0 }] };
  const seen = { born: 50, alive: 50, inFrame: 50, largeEnough: 50 };
  expect(causes(piece, seen, 30, true)[0]).toMatchObject({
    button: 'No fading',
    mend: [{ path: ['swarms', 0, 'dials', 'opacity'], value: 0.8 }],
  });
  piece.swarms[0]!.dials.lasts = 'time';
  expect(causes(piece, seen, 30, true)[0]!.button).not.toBe('No fading');
});

test('of a medium it tells what it lacks, by what is counted in its cells', () => {
  const none = { cells: 100, moving: 0, filled: 0, lit: 0 };
  const piece = smallPiece((p) => {
    p.media = [{ ...makePart('media', 'fluid', []), id: 'water', name: 'Water' }];
  });
  const medium = piece.media[0]!;
  const told = (counts: Partial<MediumCensus>): string[] =>
    diagnoseMedium(piece, medium, { ...none, ...counts }).map((c) => c.why);
  expect(told({ moving: 9, filled: 9, lit: 9 })).toEqual([]);
  expect(told({})[0]).toContain('Nothing has come into it so far');
  expect(told({})[1]).toContain('It stands still');
  medium.dials.tint = 0;
  expect(told({ moving: 9 })[0]).toContain('give it no light');
  expect(told({ moving: 9, filled: 9 })[0]).toContain('give it no light');
  piece.swarms[0]!.dials.stirs = 0;
  expect(told({ moving: 9 })[0]).toContain('No swarm gives it anything');
  Object.assign(medium.dials, { shown: 'no', tint: 1 });
  expect(told({ moving: 9, lit: 9 })).toEqual(['It is not shown in the scene.']);
  Object.assign(medium.dials, { shown: 'before', light: 0 });
  expect(told({ moving: 9, lit: 9 })[0]).toContain('multiplied by 0');
  medium.on = false;
  expect(told({})).toEqual(['Water is switched off.']);
});
