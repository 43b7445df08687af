import { compilePiece, makePart, type LiveEngine, type Piece } from '@vast-swarm/core';
import { CpuEngine } from '@vast-swarm/cpu';
import { bringOut, kindPieces, turned } from '../../../tests/support/dialPlaces';
import { bytesHash } from '../../../tests/support/frameHash';
import type { FrameReport } from '../src/engine/messages';
import { Session } from '../src/engine/session';

/**
 * Every dial of every kind is turned while a small piece plays: the frame that is then shown is that of a
 * fresh start, and not the one without the turn.
 */

const [WIDTH, HEIGHT] = [96, 54];

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
  return [...states, bytesHash(on.draw(WIDTH, HEIGHT).pixels)].join();
}

/** What a fresh start shows at a frame. */
function fresh(piece: Piece, frame: number): string {
  const plan = compilePiece(piece);
  reference.setPlan(plan);
  reference.reset();
  const { remembers } = plan.finish;
  while (reference.frame < frame) {
    reference.step();
    if (remembers && reference.frame >= 0) reference.draw(WIDTH, HEIGHT);
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

/** Dials that find nothing to act on in the piece that is tried. */
const IDLE: Record<string, string[]> = {
  // Its places are those of the other swarm.
  'emitter swarm': ['centre', 'turn', 'pivot', 'progress'],
  // On its way to the second shape it is later.
  'emitter morph': ['stagger', 'detour', 'swirl', 'size2', 'size3', 'size4'],
  'launch byColour': ['speed', 'way'],
  'force brushed': ['reach'],
  'force pictureFlow': ['reach'],
  'force speedLimit': ['most', 'share', 'region', 'regionCentre', 'regionSize', 'regionSoft'],
  'collider mesh': ['thickness'],
  'signal steps': ['every'],
  'body disc': ['soft'],
  'body ring': ['facing', 'point', 'turn', 'spin', 'soft'],
  'body square': ['hardness', 'soft'],
  'body spark': ['soft'],
  'body puff': ['soft'],
  'body streak': ['soft'],
  'body picture': ['soft'],
  'body pictureSet': ['pick', 'every', 'soft'],
  'body mesh': ['axis', 'soft'],
  'body trail': ['by', 'span', 'hardness', 'soft'],
  'body links': ['total', 'hardness', 'soft'],
  'camera perspective': ['near', 'progress', 'looks', 'blades', 'bladeTurn', 'samples'],
  'camera orthographic': ['near', 'progress', 'looks', 'blades', 'bladeTurn', 'samples'],
  'backdrop linear': ['centreX'],
  'finish bloom': ['radius'],
  'finish feedback': ['reset'],
  'finish buildUp': ['reset'],
  'finish blur': ['share', 'maskSoft', 'maskSide'],
  'finish edges': ['width'],
  'finish sharpen': ['width'],
  'finish levels': ['share', 'maskSoft', 'maskSide'],
  'finish grade': ['share', 'maskSoft', 'maskSide'],
  'finish gradientLayer': ['centreX'],
  'finish exposure': ['maskSoft', 'maskSide'],
};

/** What has to be there for a dial to be of any consequence. */
function withContext(piece: Piece): void {
  Object.assign(piece.frame, { rate: 120, length: 70 });
  const swarm = piece.swarms.at(-1)!;
  const signal = { ...makePart('signals', 'wave', piece.signals), id: 'sway' };
  piece.signals.push(signal);
  const sway = { feed: 'signal' as const, signal: 'sway', from: -1, to: 1 };
  const { dials } = swarm.emitter;
  // Signals move the emitter themselves.
  if (piece.signals.length === 1)
    Object.assign(dials, { centre: [sway, 0.1, 0], turn: [10, 20, 30] });
  swarm.dials.size = 0.4;
  for (const { kind, dials: finish } of piece.finish) {
    const ellipse = { shape: 'ellipse' as const, x: 0.5, y: 0.5, wide: 0.4, high: 0.4, turn: 0 };
    if (!['exposure'].includes(kind)) Object.assign(finish, { mask: [ellipse], share: 0.6 });
  }
}

test.each(kindPieces())(
  'every dial of %s is shown true while it plays',
  async (kind, piece, place) => {
    withContext(piece);
    const watch = new Watch();
    const live: LiveEngine = Object.assign(engine, {
      kind: 'cpu' as const,
      threads: 1,
      show: () => {
        if (engine.frame >= 0) engine.draw(WIDTH, HEIGHT);
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
    session.play(true);
    const same: string[] = [];
    const untrue: string[] = [];
    for (const [key, spec] of Object.entries(place.specs)) {
      const base = structuredClone(piece);
      bringOut(place.specs, place.find(base)!, key);
      const changed = structuredClone(base);
      const dials = place.find(changed)!;
      const value = turned(spec, dials[key]!);
      if (value === undefined) continue;
      dials[key] = value;
      session.setPiece(changed);
      let frames = 0;
      await watch.until((r) => ++frames > 1 && r.exact && r.frame > 12);
      const { frame } = engine;
      const shown = seen(engine, changed);
      if (shown !== fresh(changed, frame)) untrue.push(key);
      if (shown === fresh(base, frame)) same.push(key);
    }
    session.play(false);
    await watch.until((r) => !r.playing);
    expect({ untrue, same }).toEqual({ untrue: [], same: IDLE[kind] ?? [] });
  },
  120_000,
);
