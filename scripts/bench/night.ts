import {
  Conductor,
  levelsOf,
  makeEntry,
  makeShow,
  WallSampler,
  type Entry,
  type Pass,
} from '@vast-swarm/core/show';
import { DEMO_SHOW } from '@vast-swarm/core/demo';
import { LivePlay, PLAYED, type Piece } from '@vast-swarm/core/piece';
import { Scene, type Score } from '@vast-swarm/core/plan';
import { bestOf, report } from './report';

/** A show of eight hours, run as fast as it goes, with cues at random; and what a wall costs a frame. */

const WANTED = { night: 1.05, memory: 1.05, wall: 5 };

/** Small steps of chance, the same each time. */
let state = 7;
function chance(): number {
  state = (state * 1103515245 + 12345) % 2147483648;
  return state / 2147483648;
}

const { piece: barge } = DEMO_SHOW.pieces.find((p) => p.id === 'ember-barge')!;
const pieces: Record<string, Piece> = { a: barge, b: barge, c: barge };
const cues = barge.cues.map((c) => c.id);
const entries = Object.keys(pieces).map((id, i): Entry => {
  // Now and then by hand: it begins again, and controls stay as they are.
  return { ...makeEntry(id, id), fade: 2, next: i === 1 ? 'hand' : 'time' };
});

/** What plays of a pass: its controls, as they are played. */
interface Playing {
  pass: Pass;
  frame: number;
  played: LivePlay;
  score: Score;
}

const playing = new Map<number, Playing>();

function started(pass: Pass, frame: number, before: LivePlay | null): Playing {
  const played = before ?? new LivePlay([]);
  const piece = pieces[pass.entry.piece]!;
  const score = new Scene(piece, new Map(), new Map([[PLAYED, played]])).score!;
  return { pass, frame, played, score };
}

const waiting: Pass[] = [];
const conductor = new Conductor(
  { ...makeShow('Long'), again: true, entries },
  (piece) => pieces[piece]!.frame,
  {
    prepare: (pass) => waiting.push(pass),
    begin: (pass) => playing.set(pass.number, started(pass, pass.begun - 1, null)),
    jump: (pass, frame) => {
      const now = playing.get(pass.number)!;
      const { rate } = pass;
      now.played.replace(now.score.carried((now.frame + 1) / rate, frame / rate));
      now.frame = frame - 1;
    },
    remove: (pass) => playing.delete(pass.number),
  },
);

/** Milliseconds a frame of the night, over so many. */
function run(frames: number): number {
  const begun = performance.now();
  for (let n = 0; n < frames; n++) {
    for (const pass of waiting.splice(0)) conductor.ready(pass.number);
    for (const one of [...playing.values()]) {
      const { pass, score } = one;
      one.frame = Math.min(pass.until - 1, one.frame + 1);
      for (const { id } of barge.controls) score.at(id, (one.frame + 1) / pass.rate);
      conductor.reached(pass.number, one.frame);
    }
    const now = conductor.present && playing.get(conductor.present.number);
    if (!now) continue;
    const at = (now.frame + 1) / now.pass.rate;
    if (chance() < 0.02) now.played.add({ at, cue: cues[Math.floor(chance() * cues.length)]! });
    if (chance() < 0.001) conductor.go();
  }
  return (performance.now() - begun) / frames;
}

/** Bytes that are in use when nothing more can be let go. */
function used(): number {
  for (let i = 0; i < 3; i++) globalThis.gc?.();
  return process.memoryUsage().heapUsed;
}

const RATE = 30;
conductor.open();
conductor.go();
run(60_000);
const early = bestOf(5, () => run(4000));
const before = used();
run(8 * 3600 * RATE - 80_000);
const late = bestOf(5, () => run(4000));
report('night: a frame after eight hours', late / early, 'times', WANTED.night);
if (globalThis.gc) {
  report('night: memory after eight hours', used() / before, 'times', WANTED.memory);
}

const wall = DEMO_SHOW.show.wall!;
const sampler = new WallSampler(wall, 640, 360);
const picture = Uint8Array.from({ length: 4 * 640 * 360 }, (_, i) => (i * 31) % 256);
levelsOf(wall, sampler.light(picture));
const cost = bestOf(10, () => {
  const begun = performance.now();
  levelsOf(wall, sampler.light(picture));
  return performance.now() - begun;
});
report('night: 7,648 pixels of a wall', cost, 'ms', WANTED.wall);
