import equal from 'fast-deep-equal';
import {
  Conductor,
  type Done,
  type NightRow,
  type Pass,
  type Show,
  type Stage,
} from '@vast-swarm/core/show';
import { cueDials, valuesOf } from '@vast-swarm/core/kinds';
import { showOffer, wholeAct, type OutsideAct } from '@vast-swarm/core/formats';
import type { ControlValue } from '@vast-swarm/core/feeds';
import type { Piece, Played } from '@vast-swarm/core/piece';
import { OutsideInput } from '../control/outsideInput';
import type { StoredNight } from '../data/db';
import { forgetNight, loadNight, type LeftNight } from '../data/nights';
import type { EngineChoice, FrameReport } from '../engine/messages';
import type { Play } from '../engine/plays';
import { Listeners } from '../live/listeners';
import type { Command, Standing } from './channel';
import { Masters } from './masters';
import { NightLog } from './nightLog';
import { Passes } from './passes';
import { Player } from './player';
import { Replay } from './replay';
import { WallFeed } from './wallFeed';
import { Ways } from './ways';

/** Milliseconds without a word from an engine, after which somebody who panics wants another. */
const SILENT = 2000;

interface Options {
  id: string;
  show: Show;
  pieces: ReadonlyMap<string, Piece>;
  /** The night that was under way when this page was left. */
  night: LeftNight | null;
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
  readonly passes: Passes;
  readonly masters: Masters;
  private show: Show;
  private pieces: ReadonlyMap<string, Piece>;
  /** Controls that go on their way while time stands still. */
  private readonly standing = new Ways();
  private began: number | null = null;
  private time = { before: 0, since: 0 };
  private stretch = 0;
  private good: { values: Readonly<Record<string, ControlValue>>; brightness: number };
  private cueSeen = '';
  private trouble: string | null = null;
  private replay: Replay | null = null;
  /** Acts before the pass that is made ready, where a night is taken up again. */
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
    this.good = { values: {}, brightness: show.brightness };
    this.passes = new Passes(options.holder, () => this.conductor);
    this.masters = new Masters(show, {
      done: (act) => {
        this.done(act);
      },
      seen: () => {
        this.wall.show();
        this.watchers.tell();
      },
      paced: () => {
        this.paced();
      },
    });
    this.log = new NightLog(
      () => this.stored(),
      (message) => {
        this.troubled(message);
      },
    );
    this.conductor = this.freshConductor();
    this.outside = new OutsideInput(
      () => this.piece,
      () => {
        const { brightness, speed } = this.masters;
        return { ...this.controls, '/brightness': brightness, '/speed': speed };
      },
      (act) => {
        this.act(act);
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
    if (!night || !this.takeUp(night)) this.conductor.open();
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
        const player = this.passes.of(pass);
        if (this.replay) player?.begin(frame, this.replay.played((this.stretch += 1)));
        else player?.jump(frame);
      },
      remove: (pass) => {
        this.passes.remove(pass);
        this.watchers.tell();
      },
    };
    return new Conductor(this.show, frames, stage, led);
  }

  /** A night goes on where this page was left; true where it can. */
  private takeUp(night: LeftNight): boolean {
    const { stretch, entry, frame, played } = night;
    this.stretch = stretch - 1;
    this.takenUp = true;
    this.before = played;
    if (!this.conductor.go(entry, frame)) {
      [this.stretch, this.takenUp, this.before] = [0, false, []];
      return false;
    }
    this.began = night.began;
    this.time = { before: night.time, since: performance.now() };
    this.masters.set(night);
    this.good = { values: night.good, brightness: night.brightness };
    return true;
  }

  /** How loud a pass is, 0 to 1: sounds go no faster or slower than they are. */
  loudness(number: number): number {
    return this.masters.speed === 1 ? this.passes.part(number) : 0;
  }

  get piece(): Piece | null {
    return this.passes.present?.piece ?? null;
  }

  private get report(): FrameReport | null {
    return this.passes.present?.client.report ?? null;
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
      jumped: (all) => {
        if (this.conductor.present !== pass) return;
        // What came before it belongs to the stretch before.
        this.stretch += 1;
        this.recorded(all);
      },
      trouble: (message) => {
        this.troubled(`${piece.name}: ${message}`);
      },
    });
    this.passes.add(player, this.masters.speed);
  }

  private begin(pass: Pass): void {
    this.began ??= Date.now();
    if (this.time.since === 0) this.time.since = performance.now();
    const { entry = pass.entry.id, second = 0 } = this.last ?? {};
    if (!this.takenUp) this.row(second, { all: 'go', entry: pass.entry.id }, entry);
    this.takenUp = false;
    this.stretch += 1;
    this.passes.raise(pass).play(this.masters.goes);
    this.cueSeen = '';
    this.passes.mix();
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
    this.passes.mix();
    this.wall.show();
    this.tell();
  }

  /** Tells desks how the picture stands. */
  private say({ entry }: Pass, { frame, alive, fps, engine }: FrameReport): void {
    Object.assign(this.options.holder.dataset, {
      entry: entry.id,
      frame: String(frame),
      alive: String(alive),
      fps: fps.toFixed(1),
      engine,
    });
  }

  /** Follows the present piece: its cue and its frame. */
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
        if (time === 'holds') this.masters.hold(true);
        if (time === 'jumps') this.conductor.jump(Math.round(jump * pass.rate));
      }
    }
    this.replay?.reached(this.stretch, second, (act) => {
      this.act(act);
    });
    this.log.keepSoon();
  }

  private remember(): void {
    this.good = { values: this.controls, brightness: this.masters.brightness };
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

  /** Does what is asked for by hand, from outside, or once more. */
  private act(act: OutsideAct | Play | Done): void {
    const { masters, conductor } = this;
    const done = 'all' in act ? act : (wholeAct(act) ?? act);
    if (!('all' in done)) this.play(done);
    else if (done.all === 'go') this.go(done.entry);
    else if (done.all === 'jump') conductor.jump(done.to);
    else if (done.all === 'brightness') masters.shine(done.to, done.over);
    else if (done.all === 'speed') masters.pace(done.to);
    else if (done.all === 'held') masters.hold(done.to);
    else masters.darken(done.to);
  }

  /** Does what a desk asks for. */
  do(command: Command): void {
    switch (command.do) {
      case 'tell':
        break;
      case 'act':
        this.act(command.act);
        break;
      case 'letGo':
        this.passes.present?.client.letGo(command.control);
        break;
      case 'call':
        this.conductor.call(command.entry);
        break;
      case 'test':
        this.masters.showTest(command.on);
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

  /** Whether time goes is another by now, or may be. */
  private paced(): void {
    const { speed, goes } = this.masters;
    this.passes.pace(speed, goes);
    if (!goes) return;
    for (const { name, to, left } of this.standing.end()) {
      this.play({ control: name, to, over: left, ease: 'straight' });
    }
  }

  /** Plays a control or a cue of the present piece. */
  private play(play: Play): void {
    const player = this.passes.present;
    if (!player || this.replay) return;
    if ('cue' in play) {
      player.act(play);
      return;
    }
    const { control, to, over = 0, ease } = play;
    this.standing.forget(control);
    const from = this.controls[control];
    const { goes, speed } = this.masters;
    if (over > 0 && !goes && from !== undefined) {
      const way = { from, to, over, ...(ease ? { ease } : {}) };
      this.standing.send(control, way, (value) => {
        player.act({ control, to: value });
      });
      // Seconds of somebody's hand are those of the clock.
    } else player.act(over > 0 ? { ...play, over: over * speed } : play);
  }

  /** Back to how it stood when it was last as somebody wanted it, at once. */
  private panic(): void {
    const { passes, masters, good } = this;
    this.standing.end();
    this.trouble = null;
    masters.darken(false);
    masters.showTest(false);
    masters.shine(good.brightness > 0 ? good.brightness : 1);
    masters.pace(this.show.speed || 1);
    masters.hold(false);
    const player = passes.present;
    if (!player) return;
    if (performance.now() - player.heardAt > SILENT) player.revive();
    for (const [control, to] of Object.entries(good.values)) player.act({ control, to });
  }

  /** The night begins anew, or one is seen again; behind that the one that was under way goes on. */
  private async anew(rows: NightRow[] | null): Promise<void> {
    const { id } = this.options;
    const seenAgain = this.replay !== null;
    this.standing.end();
    if (rows) this.log.keep();
    this.conductor.close();
    await this.log.forget();
    if (!rows && !seenAgain) await forgetNight(id).catch(() => undefined);
    const night = rows ? null : await loadNight(id).catch(() => null);
    this.replay = rows ? new Replay(rows) : null;
    Object.assign(this, { began: null, stretch: 0, last: null, trouble: null });
    this.time = { before: 0, since: 0 };
    this.masters.set(this.show);
    this.conductor = this.freshConductor();
    if (!night || !this.takeUp(night)) this.conductor.open();
    if (rows) this.conductor.go();
    this.watchers.tell();
    this.tell();
  }

  /** Show and pieces as they stand in the browser by now. */
  changed(show: Show, pieces: ReadonlyMap<string, Piece>): void {
    const before = this.pieces;
    const changed = [...pieces.keys()].filter((id) => !equal(pieces.get(id), before.get(id)));
    this.show = show;
    this.pieces = pieces;
    this.conductor.setShow(show, new Set(changed));
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

  /** Paints what is seen into a canvas. */
  paint(context: CanvasRenderingContext2D): void {
    const { width, height } = context.canvas;
    context.fillStyle = '#000';
    context.fillRect(0, 0, width, height);
    if (this.masters.blackout) return;
    this.passes.paint(context);
    context.globalAlpha = 1 - this.masters.brightness;
    context.fillRect(0, 0, width, height);
    context.globalAlpha = 1;
  }

  /** How it stands, as desks are told. */
  get told(): Standing {
    const { conductor, report, trouble, began } = this;
    const { brightness, speed, blackout, held, test } = this.masters;
    const { present, coming, wanted, left } = conductor;
    return {
      began,
      wanted,
      brightness,
      speed,
      blackout,
      held,
      test,
      trouble,
      present: present && {
        entry: present.entry.id,
        frame: present.at,
        left,
        from: present.from,
        until: present.until,
        rate: present.rate,
      },
      coming: coming && { entry: coming.entry.id, ready: coming.ready },
      controls: this.controls,
      cue: report?.cue?.cue ?? null,
      replays: this.replay !== null,
      fps: report?.fps ?? 0,
      lateFrames: report?.lateFrames ?? 0,
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
    const { began, conductor, stretch, good } = this;
    const { brightness, speed, blackout, held } = this.masters;
    const { present } = conductor;
    if (began === null || !present || this.replay) return null;
    return {
      id: this.options.id,
      began,
      changed: Date.now(),
      time: this.seconds,
      stretch,
      entry: present.entry.id,
      frame: Math.max(0, present.at),
      brightness,
      speed,
      blackout,
      held,
      good: good.values,
    };
  }

  /** The page is left: the night is kept. */
  close(): void {
    this.log.keep();
    this.masters.stop();
    this.standing.stop();
    this.outside.close();
    this.wall.close();
    this.passes.close();
  }
}
