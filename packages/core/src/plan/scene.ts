import type { Follow } from '../sections/kinds';
import { swarmDials } from '../sections/swarms/swarmDials';
import type { KernelBuilder } from '../language/builder';
import type { World } from '../language/world';
import { inEffect } from '../piece/follow';
import { looped, periodOf, phaseOf, roundOf } from '../feeds/loop';
import { isSignal, type FrameFeed, type Vector, type VectorFeed } from '../feeds/feeds';
import { formulaAt } from '../formula/numbers';
import { parseFormula } from '../formula/parse';
import { kindOf } from '../sections';
import type { Piece } from '../piece/types';
import { LivePlay, PLAYED } from '../piece/played';
import { Score, type Bursts } from './score/score';
import { hasScore, isBurst, scoreText } from './score/scoreText';
import { clockOf, signalsOf, type LiveInput } from './signals';
import { memo, serialOf } from '../stock/memo';
import { atHand, stockData, type StockFiles } from '../stock/entry';
import { LivePictures } from '../stock/clip/livePictures';
import { LiveMotion } from '../stock/motion/liveMotion';
import type { Performing } from '../stock/motion/performing';
import type { MovingPicture, Picture, StockData } from '../stock/types';
import type { Looker } from './shownPicture';
import { mediumSpace } from './media/mediumSpace';
import type { MediumSpace } from '../language/mediumSpace';

/** Results of controls on a piece that are known already: their course, and its signals. */
export interface Script {
  score: Score;
  signals: ReadonlyMap<string, Follow> | undefined;
}

/** A piece with what its dials read beside themselves: signals and stock. */
export class Scene implements World {
  readonly size: World['size'];
  readonly lens: World['lens'];
  readonly signals: ReadonlyMap<string, Follow>;

  /** The course of the piece's controls; null where it has none. */
  readonly score: Score | null;

  constructor(
    readonly piece: Piece,
    private readonly files: StockFiles = new Map(),
    /** Takes that are being recorded, by signal, sound, picture or performer: they stand in for those of the piece. */
    readonly live: ReadonlyMap<string, LiveInput> = new Map(),
    private readonly looker?: Looker,
    script?: Script,
  ) {
    this.score = script?.score ?? (hasScore(piece) ? this.makeScore() : null);
    this.size = piece.frame;
    const { kind, dials } = piece.camera;
    const { perspective } = kindOf('cameras', kind);
    this.lens = { perspective, defocuses: dials.aperture !== 0 };
    this.signals = script?.signals ?? this.makeSignals();
  }

  private makeSignals(): ReadonlyMap<string, Follow> {
    const { piece, live, score, period } = this;
    const signals = signalsOf(piece, live, {
      stock: (id) => this.stock(id),
      performer: (id) => this.performer(id),
      score,
    });
    return new Map([...signals].map(([id, follow]) => [id, looped(follow, period)]));
  }

  private makeScore(): Score {
    const { piece, files, live, looker } = this;
    const input = live.get(PLAYED);
    const played = input instanceof LivePlay ? input.events : piece.played;
    // Signals that fire cues are a scene's of their own: they read controls only as far as they are known.
    const signals = (score: Score): ReadonlyMap<string, Follow> =>
      new Scene(piece, files, live, looker, { score, signals: undefined }).signals;
    return new Score(piece, played, clockOf(live), signals);
  }

  get seed(): number {
    return this.piece.seed;
  }

  /** Inputs of signals, as a text. A live take changes while its text stays the same. */
  get signalled(): string {
    // Many parts of a compile ask for it, and takes can be long.
    return memo(this, 'signalled', () => {
      const live = [...this.live].map(([id, take]) => [id, serialOf(take)]);
      const { signals, sounds, performers, frame } = this.piece;
      const stock = sounds.length + performers.length > 0 ? this.stocked : null;
      const score = scoreText(this.piece);
      const round = frame.loop ? [frame.length] : [];
      return JSON.stringify([signals, sounds, stock, frame.preroll, live, score, ...round]);
    });
  }

  /** Inputs of things of the stock, as a text: which they are, and whether their files are at hand. */
  get stocked(): string {
    return memo(this, 'stocked', () => {
      const { stock, pictures, performers } = this.piece;
      const here = stock.map((entry) => atHand(entry, this.files));
      return JSON.stringify([stock, pictures, performers, here]);
    });
  }

  get density(): number {
    return this.piece.density;
  }

  get rate(): number {
    return this.piece.frame.rate;
  }

  get period(): number | null {
    return periodOf(this.piece.frame);
  }

  round(frame: number): number {
    return roundOf(this.piece.frame, frame);
  }

  phase(frame: number): number {
    return phaseOf(this.piece.frame, frame);
  }

  /** Another number when more was recorded of a live signal. */
  changes(): number {
    let sum = 0;
    for (const take of this.live.values()) sum += take.changes;
    return sum;
  }

  /** Bursts of a swarm by cues before a second; none where it is null. */
  bursts(swarm: string): ((time: number) => Bursts) | null {
    const { score } = this;
    if (!score || !isBurst(this.piece, swarm)) return null;
    return (time) => score.until(time).bursts.filter((b) => b.swarm === swarm && b.at < time);
  }

  /** A signal's value at a time in seconds. */
  signal(id: string, time: number): number {
    const value = this.signals.get(id)?.(time) ?? 0;
    return Number.isFinite(value) ? value : 0;
  }

  /** Follows a dial that is the same for all particles: a function of the time in seconds. */
  follow(feed: FrameFeed): (time: number) => number {
    if (typeof feed === 'number') return () => feed;
    if (isSignal(feed)) {
      const { signal, from, to } = feed;
      return (time) => from + (to - from) * this.signal(signal, time);
    }
    const formula = parseFormula(feed.text, false);
    const { from, to } = feed;
    const { rate, seed } = this;
    const signal = (id: string, at: number): number => this.signal(id, at);
    return looped((time) => {
      const value = formulaAt(formula, { time, rate, seed, signal });
      return Math.min(Math.max(from, to), Math.max(Math.min(from, to), value));
    }, this.period);
  }

  number(feed: FrameFeed, time: number): number {
    return typeof feed === 'number' ? feed : this.follow(feed)(time);
  }

  vector(feed: VectorFeed, time: number): Vector {
    return feed.map((part) => this.number(part, time)) as Vector;
  }

  colouring(id: string): ReturnType<World['colouring']> {
    const found = this.piece.swarms.find((s) => s.id === id);
    return found ? { id, specs: swarmDials, values: inEffect(this.piece, found).dials } : null;
  }

  picture(id: string): Picture | MovingPicture | undefined {
    const data = this.stock(id);
    if (data) return data.type === 'picture' ? data : undefined;
    const part = this.piece.pictures.find((p) => p.id === id && p.on);
    if (!part) return undefined;
    const { rate, seed } = this;
    const stock = (named: string): StockData | undefined => this.stock(named);
    const input = this.live.get(id);
    const live = input instanceof LivePictures ? input : undefined;
    // The same object for all that show it: what it has worked out is at hand for each.
    return memo(this, `picture ${id}`, () => {
      const { kind, dials } = part;
      const moving = kindOf('pictures', kind).moving(dials, { rate, seed, stock, live });
      const { looker } = this;
      if (!moving || live || !looker) return moving;
      const named = this.piece.stock.filter((s) => Object.values(dials).includes(s.id));
      const shown = { kind, dials, rate, seed, stock: named };
      return { ...moving, seeing: looker(shown) };
    });
  }

  shown(id: string): ReturnType<World['shown']> {
    return this.picture(id) ?? this.medium(id);
  }

  medium(id: string): MediumSpace | undefined {
    const part = this.piece.media.find((m) => m.id === id && m.on);
    return part && memo(this, `medium ${id}`, () => mediumSpace(this, part));
  }

  performer(id: string): Performing | undefined {
    const part = this.piece.performers.find((p) => p.id === id && p.on);
    if (!part) return undefined;
    const { rate } = this;
    const input = this.live.get(id);
    const live = input instanceof LiveMotion ? input : undefined;
    return memo(this, `performer ${id}`, () =>
      kindOf('performers', part.kind).performing(part.dials, {
        rate,
        live,
        stock: (named) => this.stock(named),
      }),
    );
  }

  /** A thing of the stock by its id in the piece. */
  stock(id: string): StockData | undefined {
    const entry = this.piece.stock.find((s) => s.id === id);
    return entry && stockData(entry, this.files);
  }
}

/** A builder of kernels of a piece. */
export type SceneBuilder = KernelBuilder<Scene>;
