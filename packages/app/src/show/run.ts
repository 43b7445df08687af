import {
  Conductor,
  cueDials,
  showOffer,
  valuesOf,
  wholeAct,
  type ControlValue,
  type Done,
  type NightRow,
  type OutsideAct,
  type Pass,
  type Piece,
  type Played,
  type Show,
  type Stage,
} from '@vast-swarm/core';
import { OutsideInput } from '../control/outsideInput';
import type { StoredNight } from '../data/db';
import { forgetNight } from '../data/nights';
import type { EngineClient } from '../engine/client';
import type { EngineChoice, FrameReport } from '../engine/messages';
import type { Play } from '../engine/plays';
import { Listeners } from '../live/listeners';
import type { Command, Standing } from './channel';
import { NightLog } from './nightLog';
import { Player } from './player';
import { Replay } from './replay';
import { WallFeed } from './wallFeed';
import { Ways } from './ways';

/** Milliseconds without a word from an engine, after which somebody who panics wants another. */
const SILENT = 2000;

/** A pass that is heard. */
interface Sounding {
  number: number;
  piece: Piece;
  client: EngineClient;
}

interface Options {
  id: string;
  show: Show;
  pieces: ReadonlyMap<string, Piece>;
  /** The night that was under way when this page was left. */
  night: StoredNight | null;
  engine: EngineChoice;
  /** Where what is played is seen. */
  holder: HTMLElement;
}

/**
 * The night of a show, in the page of the output: plays entry after entry as its conductor says, follows what is asked
 * for by hand, by keys and from outside, and writes all of it down.
 */
export class Run {
  private readonly watchers = new Listeners();
  readonly subscribe = this.watchers.add;
  private conductor: Conductor;
  /** The last frame that was seen, of what entry. */
  private last: { entry: string; second: number } | null = null;
  private readonly players = new Map<number, Player>();
  private show: Show;
  private pieces: ReadonlyMap<string, Piece>;
  private readonly master = new Ways();
  /** Controls that go on their way while time stands still. */
  private readonly standing = new Ways();
  private began: number | null = null;
  private time = { before: 0, since: 0 };
  private stretch = 0;
  brightness: number;
  private speed: number;
  blackout = false;
  test = false;
  private held = false;
  private good: { values: Readonly<Record<string, ControlValue>>; brightness: number };
  private cueSeen = '';
  private trouble: string | null = null;
  private lines: [lines: number, fixed: boolean] = [540, false];
  private replay: Replay | null = null;
  /** What the pass that is made ready begins with, where a night is taken up again. */
  private before: readonly Played[] = [];
  private takenUp = false;
  private readonly log: NightLog;
  readonly outside: OutsideInput;
  private readonly wall = new WallFeed((context) => {
    this.paint(context);
  });

  constructor(private readonly options: Options) {
    const { show, pieces, night } = options;
    this.show = show;
    this.pieces = pieces;
    this.brightness = show.brightness;
    this.speed = show.speed;
    this.good = { values: {}, brightness: show.brightness };
    this.log = new NightLog(
      () => this.stored(),
      (message) => {
        this.troubled(message);
      },
    );
    this.conductor = this.freshConductor();
    this.outside = new OutsideInput(
      () => this.piece,
      () => ({ ...this.controls, '/brightness': this.brightness, '/speed': this.speed }),
      (act) => {
        this.fromOutside(act);
      },
    );
    this.outside.told(() => {
      this.tell();
    });
    this.outside.open(false);
    this.wall.told(() => {
      this.tell();
    });
    this.wall.setWall(show.wall);
    if (night) this.takeUp(night);
    else this.conductor.open();
    this.offer();
  }

  private freshConductor(): Conductor {
    const frames = (piece: string) => this.pieces.get(piece)?.frame ?? null;
    const { replay } = this;
    const led = replay ? () => replay.next(this.stretch)?.entry ?? null : null;
    const stage: Stage = {
      prepare: (pass) => {
        this.prepare(pass);
      },
      begin: (pass) => {
        this.begin(pass);
      },
      jump: (pass, frame) => {
        this.done({ all: 'jump', to: frame });
        this.stretch += 1;
        if (this.replay) this.player(pass)?.begin(frame, this.replay.played(this.stretch));
        else this.player(pass)?.jump(frame);
      },
      remove: (pass) => {
        this.player(pass)?.close();
        this.players.delete(pass.number);
        this.watchers.tell();
      },
    };
    return new Conductor(this.show, frames, stage, led);
  }

  /** A night goes on where this page was left. */
  private takeUp(night: StoredNight): void {
    const { brightness, speed, blackout, held, stretch, entry, frame, played } = night;
    Object.assign(this, { brightness, speed, blackout, held });
    this.began = night.began;
    this.time = { before: night.time, since: performance.now() };
    this.stretch = stretch - 1;
    this.takenUp = true;
    this.before = played;
    this.good = { values: night.good, brightness };
    if (!this.conductor.go(entry, frame)) this.conductor.open();
  }

  private player(pass: Pass | null): Player | undefined {
    return pass ? this.players.get(pass.number) : undefined;
  }

  /** Who is seen, and heard. */
  private get playing(): Player[] {
    const { present, leaving } = this.conductor;
    return [this.player(leaving), this.player(present)].filter((p) => p !== undefined);
  }

  /** What is heard; another list only where it is something else. */
  private sounding: Sounding[] = [];
  get heard(): readonly Sounding[] {
    const now = this.playing.map(({ pass, piece, client }) => {
      return { number: pass.number, piece, client };
    });
    const same =
      now.length === this.sounding.length &&
      now.every(({ client }, i) => client === this.sounding[i]!.client);
    if (!same) this.sounding = now;
    return this.sounding;
  }

  /** How loud a pass is, 0 to 1: sounds go no faster or slower than they are. */
  loudness(number: number): number {
    const { present, mix } = this.conductor;
    if (this.speed !== 1) return 0;
    return present?.number === number ? mix : 1 - mix;
  }

  get piece(): Piece | null {
    return this.player(this.conductor.present)?.piece ?? null;
  }

  private get report(): FrameReport | null {
    return this.player(this.conductor.present)?.client.report ?? null;
  }

  get controls(): Readonly<Record<string, ControlValue>> {
    return this.report?.controls ?? {};
  }

  private prepare(pass: Pass): void {
    const piece = this.pieces.get(pass.entry.piece)!;
    const { replay } = this;
    const played = replay?.played(replay.next(this.stretch)?.stretch ?? 0) ?? this.before;
    this.before = [];
    const player = new Player(pass, piece, played, this.options.engine, {
      frame: (report) => {
        this.shown(player, report);
      },
      recorded: (all) => {
        if (this.conductor.present === pass) this.recorded(all);
      },
      jumped: (_, all) => {
        if (this.conductor.present === pass) this.recorded(all);
      },
      trouble: (message) => {
        this.troubled(`${piece.name}: ${message}`);
      },
    });
    this.players.set(pass.number, player);
    player.seen = 0;
    player.fit(...this.lines);
    player.pace(this.speed);
    this.options.holder.append(player.element);
  }

  private begin(pass: Pass): void {
    this.began ??= Date.now();
    if (this.time.since === 0) this.time.since = performance.now();
    const { entry = pass.entry.id, second = 0 } = this.last ?? {};
    if (!this.takenUp) this.row(second, { all: 'go', entry: pass.entry.id }, entry);
    this.takenUp = false;
    this.stretch += 1;
    const player = this.player(pass)!;
    this.options.holder.append(player.element);
    player.play(!this.held && this.speed > 0);
    this.cueSeen = '';
    this.mixed();
    this.offer();
    this.remember();
    this.log.keepSoon();
    this.watchers.tell();
  }

  /** A frame of a pass is there. */
  private shown(player: Player, report: FrameReport): void {
    const { pass } = player;
    if (report.settling > 0) return;
    if (pass === this.conductor.coming && report.frame === pass.begun) {
      this.conductor.ready(pass.number);
    }
    if (pass === this.conductor.present) {
      this.say(pass, report);
      this.last = { entry: pass.entry.id, second: report.frame / pass.rate };
    }
    this.conductor.reached(pass.number, report.frame);
    if (pass === this.conductor.present) this.follow(report, player);
    this.mixed();
    this.wall.show();
    this.tell();
  }

  /** What the picture says of itself. */
  private say({ entry }: Pass, { frame, alive, fps, engine }: FrameReport): void {
    Object.assign(this.options.holder.dataset, {
      ...{ entry: entry.id, frame: String(frame), alive: String(alive) },
      ...{ fps: fps.toFixed(1), engine },
    });
  }

  /** What the present piece does by itself. */
  private follow({ cue, frame }: FrameReport, { pass, piece }: Player): void {
    const second = frame / pass.rate;
    const seen = cue ? `${cue.cue} ${String(cue.at)}` : '';
    const fresh = seen !== this.cueSeen;
    this.cueSeen = seen;
    const part = piece.cues.find((c) => c.id === cue?.cue);
    if (cue && part) {
      const { over, time, jump } = valuesOf(cueDials, part.dials);
      // When a cue has come to its end, that is what somebody may want to come back to.
      if (Math.abs(second - cue.at - over) < 0.1) this.remember();
      if (fresh && !this.replay) {
        this.conductor.cued(cue.cue);
        if (time === 'holds') this.hold(true);
        if (time === 'jumps') this.conductor.jump(Math.round(jump * pass.rate));
      }
    }
    this.replay?.reached(this.stretch, second, (act) => {
      this.again(act);
    });
    this.log.keepSoon();
  }

  private remember(): void {
    this.good = { values: this.controls, brightness: this.brightness };
  }

  private mixed(): void {
    const { leaving, mix } = this.conductor;
    const [gone, there] = [this.player(leaving), this.player(this.conductor.present)];
    if (gone) gone.seen = 1;
    if (there) there.seen = mix;
  }

  /** Seconds of the night. */
  private get seconds(): number {
    const { before, since } = this.time;
    return since === 0 ? before : before + (performance.now() - since) / 1000;
  }

  private row(at: number, act: NightRow['act'], entry = this.last?.entry): void {
    if (this.replay || entry === undefined) return;
    this.log.add({ time: this.seconds, stretch: this.stretch, entry, at, act });
  }

  private recorded(all: readonly Played[]): void {
    for (const { at, ...act } of all) this.row(at, act);
  }

  /** Writes down what is done with all of the show. */
  private done(act: Done): void {
    if (this.last) this.row(this.last.second, act);
  }

  private again(act: Done): void {
    if (act.all === 'go') this.conductor.go(act.entry);
    else if (act.all === 'jump') this.conductor.jump(act.to);
    else this.fromOutside(act);
  }

  private fromOutside(act: OutsideAct): void {
    const whole = 'all' in act ? act : wholeAct(act);
    if (!whole) this.act(act as Play);
    else if (whole.all === 'go') this.go(whole.entry);
    else if (whole.all === 'brightness') this.shine(whole.to, whole.over);
    else if (whole.all === 'speed') this.pace(whole.to);
    else if (whole.all === 'held') this.hold(whole.to);
    else this.put('blackout', whole.to);
  }

  /** Does what a desk asks for. */
  do(command: Command): void {
    switch (command.do) {
      case 'tell':
        break;
      case 'play':
        this.act(command.play);
        break;
      case 'letGo':
        this.player(this.conductor.present)?.client.letGo(command.control);
        break;
      case 'next':
        this.go();
        break;
      case 'call':
        this.conductor.call(command.entry);
        break;
      case 'brightness':
        this.shine(command.to, command.over);
        break;
      case 'speed':
        this.pace(command.to);
        break;
      case 'held':
        this.hold(command.on);
        break;
      case 'blackout':
      case 'test':
        this.put(command.do, command.on);
        break;
      case 'outside':
        if (command.on) this.outside.open(false);
        else this.outside.close();
        break;
      case 'wall':
        if (command.on) this.wall.open();
        else this.wall.close();
        break;
      case 'panic':
        this.panic();
        break;
      case 'anew':
        void this.anew(null);
        break;
      case 'replay':
        void this.anew(command.rows);
        break;
    }
    this.tell();
  }

  private go(entry?: string): void {
    const to = entry ?? this.conductor.coming?.entry.id ?? this.conductor.next?.id;
    if (to === undefined) return;
    if (!this.conductor.go(to)) this.troubled('This entry has no piece that is there.');
    else this.log.keepSoon();
  }

  private put(what: 'blackout' | 'test', on: boolean): void {
    this[what] = on;
    this.wall.show();
    if (what === 'blackout') this.done({ all: what, to: on });
    this.watchers.tell();
  }

  private shine(to: number, over = 0): void {
    this.done({ all: 'brightness', to, ...(over ? { over } : {}) });
    this.master.send('brightness', { from: this.brightness, to, over }, (value) => {
      this.brightness = value as number;
      this.wall.show();
      this.watchers.tell();
    });
  }

  private pace(speed: number): void {
    this.done({ all: 'speed', to: speed });
    this.speed = speed;
    for (const player of this.players.values()) player.pace(speed);
    this.move();
  }

  private hold(on: boolean): void {
    this.done({ all: 'held', to: on });
    this.held = on;
    this.move();
  }

  /** Whether time goes is another by now, or may be. */
  private move(): void {
    const goes = !this.held && this.speed > 0;
    for (const player of this.playing) player.play(goes);
    if (!goes) return;
    for (const { name, to, left } of this.standing.end()) {
      this.act({ control: name, to, over: left, ease: 'straight' });
    }
  }

  /** Plays a control or a cue of the present piece. */
  private act(play: Play): void {
    const player = this.player(this.conductor.present);
    if (!player || this.replay) return;
    if ('cue' in play) {
      player.act(play);
      return;
    }
    const { control, to, over = 0, ease } = play;
    this.standing.forget(control);
    const from = this.controls[control];
    const stands = this.held || this.speed === 0;
    if (over > 0 && stands && from !== undefined) {
      const way = { from, to, over, ...(ease ? { ease } : {}) };
      this.standing.send(control, way, (value) => {
        player.act({ control, to: value });
      });
      // Seconds of somebody's hand are those of the clock.
    } else player.act(over > 0 ? { ...play, over: over * (this.speed || 1) } : play);
  }

  /** Back to how it stood when it was last as somebody wanted it, at once. */
  private panic(): void {
    const player = this.player(this.conductor.present);
    const { values, brightness } = this.good;
    this.standing.end();
    Object.assign(this, { blackout: false, test: false, trouble: null });
    this.shine(brightness > 0 ? brightness : 1);
    this.pace(this.show.speed || 1);
    this.hold(false);
    if (!player) return;
    if (performance.now() - player.heardAt > SILENT) player.revive();
    for (const [control, to] of Object.entries(values)) player.act({ control, to });
    this.watchers.tell();
  }

  /** The night begins anew, or one is seen again. */
  private async anew(rows: NightRow[] | null): Promise<void> {
    this.standing.end();
    this.conductor.close();
    if (rows) this.log.keep();
    await this.log.forget();
    if (!rows && !this.replay) await forgetNight(this.options.id).catch(() => undefined);
    this.replay = rows ? new Replay(rows) : null;
    Object.assign(this, { began: null, stretch: 0, held: false, blackout: false, trouble: null });
    this.time = { before: 0, since: 0 };
    this.last = null;
    this.brightness = this.show.brightness;
    this.speed = this.show.speed;
    this.conductor = this.freshConductor();
    this.conductor.open();
    if (rows) this.conductor.go();
    this.watchers.tell();
    this.tell();
  }

  /** Show and pieces as they stand in the browser by now. */
  changed(show: Show, pieces: ReadonlyMap<string, Piece>): void {
    this.show = show;
    this.pieces = pieces;
    this.conductor.setShow(show);
    this.wall.setWall(show.wall);
    this.offer();
    this.tell();
  }

  private offer(): void {
    const entries = this.show.entries.flatMap(({ id, piece }) => {
      const name = this.pieces.get(piece)?.name;
      return name ? [{ id, name }] : [];
    });
    this.outside.runner.setOffer(showOffer(this.piece, entries));
  }

  private troubled(message: string): void {
    this.trouble = message;
    this.tell();
  }

  /** Lines that there are on the screen for the picture; a fixed size has them in any case. */
  fit(lines: number, fixed: boolean): void {
    this.lines = [lines, fixed];
    for (const player of this.players.values()) player.fit(lines, fixed);
  }

  /** Paints what is seen into a canvas. */
  paint(context: CanvasRenderingContext2D): void {
    const { width, height } = context.canvas;
    context.fillStyle = '#000';
    context.fillRect(0, 0, width, height);
    if (this.blackout) return;
    for (const player of this.playing) player.paint(context);
    context.globalAlpha = 1 - this.brightness;
    context.fillRect(0, 0, width, height);
    context.globalAlpha = 1;
  }

  /** How it stands, as desks are told. */
  get told(): Standing {
    const { conductor, report, brightness, speed, blackout, held, test, trouble, began } = this;
    const { present, coming, wanted, mix } = conductor;
    return {
      ...{ began, wanted, brightness, speed, blackout, held, test, trouble },
      present: present && {
        ...{ entry: present.entry.id, frame: present.at, mix },
        ...{ from: present.from, until: present.until, rate: present.rate },
      },
      coming: coming && { entry: coming.entry.id, ready: coming.ready },
      controls: this.controls,
      cue: report?.cue?.cue ?? null,
      replays: this.replay !== null,
      fps: report?.fps ?? 0,
      lateFrames: report?.lateFrames ?? 0,
      alive: report?.alive ?? 0,
      engine: report?.engine ?? null,
      size: report ? `${String(report.width)}×${String(report.height)}` : '',
      outside: this.outside.runner.state,
      wall: this.wall.state,
      watts: Math.round(this.wall.watts),
    };
  }

  private tell(): void {
    this.onTold?.();
  }

  /** Is called when desks are to be told. */
  onTold: (() => void) | null = null;

  /** How the night stands, to be kept; null before it begins, and while one is seen again. */
  private stored(): StoredNight | null {
    const { began, conductor, brightness, speed, blackout, held, stretch, good } = this;
    const { present } = conductor;
    if (began === null || !present || this.replay) return null;
    return {
      ...{ id: this.options.id, began, changed: Date.now(), time: this.seconds, stretch },
      ...{ entry: present.entry.id, frame: Math.max(0, present.at) },
      ...{ brightness, speed, blackout, held, good: good.values },
      played: [...(this.player(present)?.soFar ?? [])],
    };
  }

  /** The page is left: the night is kept. */
  close(): void {
    this.log.keep();
    this.master.stop();
    this.standing.stop();
    this.outside.close();
    this.wall.close();
    for (const player of this.players.values()) player.close();
    this.players.clear();
  }
}
