import { compilePiece } from '@vast-swarm/core/plan';
import type { LiveEngine } from '@vast-swarm/core/play';
import type { Piece } from '@vast-swarm/core/piece';
import { CpuEngine } from '@vast-swarm/cpu';
import equal from 'fast-deep-equal';
import { setTheScene, turnedAway } from '../../../tests/support/dialContext';
import { bringOut, kindPieces } from '../../../tests/support/dialPlaces';
import { bytesHash } from '../../../tests/support/frameHash';
import { swept } from '../../../tests/support/sweep';
import type { FrameReport } from '../src/engine/messages';
import { Session } from '../src/engine/session';

/**
 * Every dial of every kind is turned while a small piece plays: the frame that is then shown is that of a
 * fresh start, and not the one without the turn.
 */

/** Treatments of the finish count in pixels of 1080 lines: they need some. */
const sizeOf = (kind: string): [number, number] =>
  kind.startsWith('finish') ? [192, 108] : [96, 54];
let size: [number, number];

/** By this frame there is something to be seen of everything. */
const EARLY = 17;

let engine: CpuEngine;
let reference: CpuEngine;
beforeAll(async () => {
  engine = await CpuEngine.create({ threads: 1 });
  reference = await CpuEngine.create({ threads: 1 });
});
afterAll(() => {
  engine.close();
  reference.close();
});

/** What has been born, whatever room there is for more, and the picture of it. */
function seen(on: CpuEngine, piece: Piece): string {
  const states = piece.swarms
    .filter((s) => s.on)
    .flatMap(({ id }) =>
      ['px', 'vy', 'age', 'life'].map((name) => {
        const all = on.state(id, name);
        const born = on.born(id);
        const first = Math.max(0, born - all.length);
        return bytesHash(
          Float32Array.from({ length: born - first }, (_, i) => all[(first + i) % all.length]!),
        );
      }),
    );
  return [...states, bytesHash(on.draw(...size).pixels)].join();
}

/** What a fresh start shows at a frame. */
function fresh(piece: Piece, frame: number): string {
  const plan = compilePiece(piece);
  reference.setPlan(plan);
  reference.reset();
  const { remembers } = plan.finish;
  while (reference.frame < frame) {
    reference.step();
    if (remembers && reference.frame >= 0) reference.draw(...size);
  }
  return seen(reference, piece);
}

/** What is told of frames, to be waited for. */
class Watch {
  private test: (r: FrameReport) => boolean = () => false;
  private found: () => void = () => undefined;

  tell(report: FrameReport): void {
    if (this.test(report)) this.found();
  }

  until(test: (r: FrameReport) => boolean): Promise<void> {
    this.test = test;
    return new Promise((found) => (this.found = found));
  }
}

test.each(swept(kindPieces(), 0.1))(
  'every dial of %s is shown true while it plays',
  async (kind, piece, place) => {
    size = sizeOf(kind);
    const watch = new Watch();
    const live: LiveEngine = Object.assign(engine, {
      kind: 'cpu' as const,
      threads: 1,
      show: () => {
        if (engine.frame >= 0) engine.draw(...size);
        return Promise.resolve();
      },
      aliveBy: () => Object.fromEntries(engine.alive()),
      crash: () => undefined,
    });
    const session = new Session(live, (event) => {
      if (event.type === 'frame') watch.tell(event.report);
    });
    session.setPiece(piece);
    await watch.until((r) => r.frame === 0 && r.settling === 0);
    session.setPace(5);
    session.play(true);
    let scene = piece;
    let unturned = { scene: piece, frame: -1, shown: '' };
    const same: string[] = [];
    const untrue: string[] = [];
    for (const [key, spec] of Object.entries(place.specs)) {
      const base = structuredClone(piece);
      setTheScene(base, kind, key);
      bringOut(place.specs, place.find(base)!, key);
      const changed = structuredClone(base);
      const dials = place.find(changed)!;
      const value = turnedAway(kind, key, spec, dials[key]!);
      if (value === undefined) continue;
      dials[key] = value;
      // Near its beginning, where a fresh start soon is too, it plays on.
      session.seek(EARLY);
      await watch.until((r) => r.settling === 0 && r.frame > EARLY);
      // The scene first, where it is another than for the dial before.
      for (const next of equal(base, scene) ? [changed] : [base, changed]) {
        session.setPiece(next);
        let frames = 0;
        await watch.until((r) => ++frames > 1 && r.exact && r.frame > EARLY);
      }
      scene = base;
      const { frame } = engine;
      const shown = seen(engine, changed);
      if (shown !== fresh(changed, frame)) untrue.push(key);
      if (unturned.frame !== frame || !equal(unturned.scene, base)) {
        unturned = { scene: base, frame, shown: fresh(base, frame) };
      }
      if (shown === unturned.shown) same.push(key);
    }
    session.play(false);
    await watch.until((r) => !r.playing);
    expect({ untrue, same }).toEqual({ untrue: [], same: [] });
  },
  240_000,
);
