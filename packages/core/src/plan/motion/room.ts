import { chainOf, sourcesOf } from '../../piece/chains';
import { PLAYED } from '../../piece/played';
import { signalsIn } from '../../piece/walk';
import type { Piece, Swarm } from '../../piece/types';
import { FOR_EVER, longestLife } from '../../sections/swarms/swarmDials';
import type { Bursts } from '../../feeds/control';
import { rangeOf } from '../../feeds/feeds';
import type { Turns } from '../../language/builder';
import { givingWay, modulo, periodOf, phaseOf, roundOf, type Looping } from '../../feeds/loop';
import type { Bake } from '../bake';
import { sightOf } from './motionKernel';
import type { Scene } from '../scene';
import { isControl } from '../score/scoreText';
import { birthsOfAllPlaces } from './allPlaces';
import { birthsByFrame, BirthSchedule, mostAlive, type Births } from './births';
import { historyRows, wantsWay, type History } from './history';
import { LoopedBirths } from './loopedBirths';

/** Rounds of a piece that comes round whose particles have slots beside each other, at the most. */
export const MOST_TURNS = 16;

/** Rounds that ids are ahead at the first frame of a piece that comes round, see `roundsAhead`. */
export const LEAST_AHEAD = 64;

/** A swarm, and what it is given. */
export interface Allotted {
  scene: Scene;
  swarm: Swarm;
  /** Particles that the machine's limit leaves for it. */
  left: number;
  /** Stored motion that is played instead of being simulated. */
  bake: Bake | null;
  /** Rounds that ids are ahead at the first frame where the piece comes round, at the least. */
  roundsAhead: number;
}

/** Births of a swarm, and the slots that there are for it. */
export interface Room {
  births: Births;
  /** Most alive at once, and as many as the limits leave. */
  needed: number;
  most: number;
  /** Slots, a multiple of 4. */
  capacity: number;
  turns: Turns | null;
  bake: Bake | null;
  history: History;
}

export function roomFor(source: Allotted): Room {
  const { scene, swarm, bake: stored } = source;
  const { rate, loop } = scene.piece.frame;
  const history = { rows: historyRows(swarm), way: wantsWay(swarm) };
  // Trails outlive their particles.
  const lasting = lifeIn(scene.piece, swarm) + history.rows / rate;
  const made = loop ? roomOfRounds(source, lasting) : roomOf(source, lasting);
  const capacity = stored?.capacity ?? made.capacity;
  const turns = capacity === made.capacity ? made.turns : null;
  const bake = stored && loop ? comingRound(stored, scene.piece.frame, turns) : stored;
  return { ...made, capacity, turns, bake, history };
}

/** The longest that a particle lives, in seconds: what lives for ever gives way in a loop. */
export function lifeIn({ frame }: Piece, { dials }: Swarm): number {
  const life = longestLife(dials);
  const period = periodOf(frame);
  return period !== null && life >= FOR_EVER ? period + givingWay(period) : life;
}

type Made = Pick<Room, 'births' | 'needed' | 'most' | 'capacity' | 'turns'>;

const inFours = (slots: number): number => Math.max(4, (slots + 3) & ~3);

function roomOf({ scene, swarm, left }: Allotted, lasting: number): Made {
  const { rate, preroll, length } = scene.piece.frame;
  const [begin, end] = [-preroll / rate, length / rate];
  const [births, ahead] = schedules(scene, swarm, begin);
  const needed = mostAlive(ahead, lasting, begin, end, 1 / rate) + roomForBursts(scene, swarm.id);
  const most = Math.max(1, Math.min(needed, swarm.dials.limit || Infinity, left));
  return {
    births: birthsByFrame(births, rate),
    needed,
    most,
    capacity: inFours(most),
    turns: null,
  };
}

/** Where the piece comes round: slots for all that is born in a round, as often as lives reach over rounds. */
function roomOfRounds({ scene, swarm, left, roundsAhead }: Allotted, lasting: number): Made {
  const { frame } = scene.piece;
  const { rate, length } = frame;
  const period = length / rate;
  const [births, ahead] = schedules(scene, swarm, 0);
  const inRound = ahead.bornBefore(period) + roomForBursts(scene, swarm.id);
  const ids = Math.min(inFours(inRound), Math.max(4, left & ~3));
  // Neighbours are told apart by their rounds, as many as there are at once.
  const apart = sightOf(scene.piece, swarm) === null ? 0 : 1;
  const wanted = roundsOf(lasting, period, rate) + apart;
  const count = Math.max(1, Math.min(wanted, Math.floor(left / ids)));
  // Slots are taken in the same turn, however many rounds come before.
  const more = Math.ceil((roundsAhead - LEAST_AHEAD) / count) * count;
  const rounds = new LoopedBirths(ahead, frame, ids, LEAST_AHEAD + more);
  const bornBefore = (time: number): number => rounds.bornAt(Math.round(time * rate) - 1);
  const end = (count + 1) * period;
  const alive = mostAlive({ bornBefore }, Math.min(lasting, end), 0, end, 1 / rate);
  const needed = Math.min(wanted * inRound, alive);
  const most = Math.max(1, Math.min(needed, swarm.dials.limit || Infinity, left));
  const turns = { ids, count };
  return {
    needed,
    most,
    turns,
    births: new LoopedBirths(births, frame, ids, LEAST_AHEAD + more),
    capacity: ids * count,
  };
}

/** How many rounds a particle sees of a piece that comes round. */
function roundsOf(lasting: number, period: number, rate: number): number {
  return Math.min(MOST_TURNS, Math.max(1, Math.ceil((lasting + 2 / rate) / period)));
}

/** The same motion at frames before the first and behind the last: in each round by its own slots. */
function comingRound(bake: Bake, frame: Looping, turns: Turns | null): Bake {
  const { name, capacity, state } = bake;
  const ids = turns?.ids ?? 0;
  const turned = (values: Float32Array, by: number): Float32Array => {
    if (by === 0 || values.length !== capacity) return values;
    const out = new Float32Array(capacity);
    out.set(values.subarray(0, capacity - by), by);
    out.set(values.subarray(capacity - by));
    return out;
  };
  return {
    name,
    capacity,
    state,
    first: -Infinity,
    last: Infinity,
    bornAt: (at) => bake.bornAt(phaseOf(frame, at)) + roundOf(frame, at) * ids,
    read(at) {
      const by = modulo(roundOf(frame, at) * ids, capacity);
      return bake.read(phaseOf(frame, at)).map((values) => turned(values, by));
    },
  };
}

/** The births of a swarm, and the same as far as they can be told ahead: a rate that is driven live may rise as far as it goes. */
function schedules(scene: Scene, swarm: Swarm, begin: number): [BirthSchedule, BirthSchedule] {
  const { id, dials } = swarm;
  const { rate } = dials;
  const each = birthsOfAllPlaces(swarm, scene);
  const sources = chainOf(scene.piece, signalsIn(rate)).flatMap((signal) => [
    signal.id,
    ...sourcesOf(signal, 'sounds'),
    ...sourcesOf(signal, 'performers'),
  ]);
  const byHand = scene.live.has(PLAYED);
  const controlled = [...signalsIn(rate)].some((name) => isControl(scene.piece, name));
  const driven = sources.some((source) => scene.live.has(source)) || (byHand && controlled);
  const most = driven ? { ...dials, rate: rangeOf(rate)[1] } : dials;
  const schedule = (of: Swarm['dials']): BirthSchedule =>
    new BirthSchedule(of, begin, scene, each, scene.bursts(id));
  return [schedule(dials), schedule(most)];
}

/** While a piece is played live: room for what cues may let be born, of each once more. */
function roomForBursts({ piece, live }: Scene, swarm: string): number {
  if (!live.has(PLAYED)) return 0;
  const all = piece.cues.flatMap((c) => c.dials.bursts as Bursts);
  return all.filter((b) => b.swarm === swarm).reduce((sum, b) => sum + b.count, 0);
}
