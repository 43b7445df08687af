import type { Conductor, Pass } from '@vast-swarm/core/show';
import type { Piece } from '@vast-swarm/core/piece';
import type { EngineClient } from '../engine/client';
import type { Player } from './player';

/** A pass that is heard. */
interface Sounding {
  number: number;
  piece: Piece;
  client: EngineClient;
}

/** The players of all passes that there are, one over the other in the output. */
export class Passes {
  private readonly players = new Map<number, Player>();
  private lines: [lines: number, fixed: boolean] = [540, false];
  private sounding: Sounding[] = [];

  constructor(
    private readonly holder: HTMLElement,
    private readonly conductor: () => Conductor,
  ) {}

  /** Adds one, unseen. */
  add(player: Player, speed: number): void {
    this.players.set(player.pass.number, player);
    player.seen = 0;
    player.fit(...this.lines);
    player.pace(speed);
    this.holder.append(player.element);
  }

  /** Puts one over all others. */
  raise(pass: Pass): Player {
    const player = this.of(pass)!;
    this.holder.append(player.element);
    return player;
  }

  of(pass: Pass | null): Player | undefined {
    return pass ? this.players.get(pass.number) : undefined;
  }

  remove(pass: Pass): void {
    this.of(pass)?.close();
    this.players.delete(pass.number);
  }

  get present(): Player | undefined {
    return this.of(this.conductor().present);
  }

  /** Those that are seen, from below. */
  private get playing(): Player[] {
    const { leaving } = this.conductor();
    return [this.of(leaving), this.present].filter((p) => p !== undefined);
  }

  /** Sounds that are heard; another list only where they are others. */
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

  /** How much of a pass is seen and heard, 0 to 1. */
  part(number: number): number {
    const { present, mix } = this.conductor();
    return present?.number === number ? mix : 1 - mix;
  }

  /** Mixes the passes: the one that comes in is seen over the one that leaves as much as it has come in. */
  mix(): void {
    const { conductor, present } = this;
    const { leaving, mix } = conductor();
    const gone = this.of(leaving);
    if (gone) gone.seen = 1;
    if (present) present.seen = mix;
  }

  /** Time goes at a speed, or stands still. */
  pace(speed: number, goes: boolean): void {
    for (const player of this.players.values()) player.pace(speed);
    for (const player of this.playing) player.play(goes);
  }

  /** Lines that there are on the screen for the picture; a fixed size has them in any case. */
  fit(lines: number, fixed: boolean): void {
    this.lines = [lines, fixed];
    for (const player of this.players.values()) player.fit(lines, fixed);
  }

  /** Paints what is seen over what is in a canvas. */
  paint(context: CanvasRenderingContext2D): void {
    for (const player of this.playing) player.paint(context);
  }

  close(): void {
    for (const player of this.players.values()) player.close();
    this.players.clear();
  }
}
