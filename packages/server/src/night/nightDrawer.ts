import { allPlayed, type Piece } from '@vast-swarm/core/piece';
import { heardBetween, isDrawn, type Plan } from '@vast-swarm/core/plan';
import { playedIn, type NightFilm, type NightMoment, type NightRow } from '@vast-swarm/core/show';
import type { Heard, StockFiles } from '@vast-swarm/core/stock';
import { type Frame } from '@vast-swarm/core/formats';
import { CpuEngine } from '@vast-swarm/cpu';
import { compiled } from '../compiled';
import type { ShowAtHand } from './showFolder';

type Span = NightFilm['spans'][number];

/** A stretch that is run: its piece with what was played in it. */
interface Player {
  engine: CpuEngine;
  plan: Plan;
  /** Its latest frame; null before its first. */
  shown: Frame | null;
}

/** Draws a night: each stretch by an engine of its own, one over the other as the output does. */
export class NightDrawer {
  private readonly players = new Map<number, Player>();

  constructor(
    private readonly atHand: ShowAtHand,
    private readonly rows: readonly NightRow[],
    private readonly size: readonly [width: number, height: number],
    private readonly threads: number,
  ) {}

  /** The piece of a stretch as it was played. */
  private played({ entry, stretch }: Pick<Span, 'entry' | 'stretch'>): {
    piece: Piece;
    files: StockFiles;
  } {
    const id = this.atHand.show.entries.find((e) => e.id === entry)!.piece;
    const { piece, files } = this.atHand.pieces.get(id)!;
    return {
      piece: { ...piece, played: allPlayed(piece.played, playedIn(this.rows, stretch)) },
      files,
    };
  }

  private async player(seen: NightMoment['seen'][number]): Promise<Player> {
    const known = this.players.get(seen.stretch);
    if (known) return known;
    const { piece, files } = this.played(seen);
    const plan = compiled(piece, { files });
    const engine = await CpuEngine.create({ threads: this.threads });
    engine.setPlan(plan);
    const player = { engine, plan, shown: null };
    this.players.set(seen.stretch, player);
    return player;
  }

  /** The picture of a stretch at a frame that does not come before the last one asked for. */
  private async frameOf(seen: NightMoment['seen'][number]): Promise<Frame> {
    const player = await this.player(seen);
    const { engine, plan } = player;
    const { width, height } = plan.frame;
    const scale = Math.min(this.size[0] / width, this.size[1] / height);
    const draw = (): Frame =>
      engine.draw(
        Math.max(16, Math.round(width * scale)),
        Math.max(16, Math.round(height * scale)),
      );
    if (player.shown && engine.frame >= seen.frame) return player.shown;
    while (engine.frame < seen.frame) {
      await engine.ready();
      engine.step();
      const last = engine.frame === seen.frame;
      if (last || (plan.finish.remembers && isDrawn(plan, engine.frame, seen.frame))) {
        player.shown = draw();
      }
    }
    return player.shown!;
  }

  /** All that is seen at a moment; what is not seen any more is let go. */
  async picture({ seen, brightness, blackout }: NightMoment): Promise<Frame> {
    const [width, height] = this.size;
    const light = new Float32Array(3 * width * height);
    for (const one of seen) over(light, this.size, await this.frameOf(one), one.part);
    for (const [stretch, player] of this.players) {
      if (seen.some((s) => s.stretch === stretch)) continue;
      player.engine.close();
      this.players.delete(stretch);
    }
    const pixels = new Uint8ClampedArray(4 * width * height).fill(255);
    const gain = blackout ? 0 : brightness;
    for (let i = 0, at = 0; i < light.length; i += 3, at += 4) {
      for (let c = 0; c < 3; c++) pixels[at + c] = light[i + c]! * gain;
    }
    return { width, height, pixels };
  }

  /** Sounds of all stretches, in seconds since the first of them. */
  heard(film: NightFilm): Heard[] {
    const [begin] = film.seconds;
    return film.spans.flatMap((span) => {
      const { piece, files } = this.played(span);
      const [from, until] = [span.from / span.rate, span.until / span.rate];
      const late = span.begun - begin - from;
      return heardBetween(piece, files, from, until).map((heard): Heard => ({
        ...heard,
        start: heard.start + late,
        ...(heard.until === undefined ? {} : { until: heard.until + late }),
        part: (time) =>
          (heard.part?.(time - late) ?? 1) * film.loudness(span.stretch, begin + time),
      }));
    });
  }

  close(): void {
    for (const { engine } of this.players.values()) engine.close();
  }
}

/** Puts a picture over what is there, in the middle, black around it, as much as it has come in. */
function over(
  light: Float32Array,
  [width, height]: readonly [number, number],
  { width: w, height: h, pixels }: Frame,
  part: number,
): void {
  if (part < 1) for (let i = 0; i < light.length; i++) light[i]! *= 1 - part;
  else light.fill(0);
  const [left, top] = [(width - w) >> 1, (height - h) >> 1];
  for (let y = 0; y < h; y++) {
    for (let x = 0; x < w; x++) {
      const to = 3 * ((y + top) * width + x + left);
      const from = 4 * (y * w + x);
      for (let c = 0; c < 3; c++) light[to + c]! += part * pixels[from + c]!;
    }
  }
}
