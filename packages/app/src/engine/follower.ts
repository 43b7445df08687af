import { project } from '@vast-swarm/core/play';
import type { CameraPose } from '@vast-swarm/core/kinds';
import type { Piece } from '@vast-swarm/core/piece';
import type { LiveEngine } from '@vast-swarm/core/play';
import type { FollowReport, Spot } from './messages';

/** Keeps to one particle and tells what it does. */
export class Follower {
  private followed: { swarm: string; id: number } | null = null;

  constructor(private readonly engine: LiveEngine) {}

  get on(): boolean {
    return this.followed !== null;
  }

  stop(): void {
    this.followed = null;
  }

  /** Takes the particle that is drawn nearest to a place, in parts of the frame's size. */
  async pick(piece: Piece, camera: CameraPose, at: Spot): Promise<void> {
    const { width, height } = piece.frame;
    let [best, found] = [0.04 * height, null as typeof this.followed];
    for (const { id: swarm, on } of piece.swarms) {
      if (!on || (at.swarm !== null && at.swarm !== swarm)) continue;
      const { age, life, px, py, pz } = await this.engine.particles(swarm);
      for (let i = 0; i < age.length; i++) {
        if (!(age[i]! >= 0 && age[i]! < life[i]!)) continue;
        const spot = project(camera, piece.frame, [px[i]!, py[i]!, pz[i]!]);
        if (!spot) continue;
        const away = Math.hypot(spot[0] - at.x * width, spot[1] - at.y * height);
        if (away < best) [best, found] = [away, { swarm, id: this.idOf(swarm, i, age.length) }];
      }
    }
    this.followed = found;
  }

  /** The youngest id that falls on a slot. */
  private idOf(swarm: string, slot: number, capacity: number): number {
    const born = this.engine.born(swarm);
    const base = born - (born % capacity);
    return slot < born % capacity ? base + slot : base - capacity + slot;
  }

  /** The particle as it is now; null when it has died. */
  async report(piece: Piece, camera: CameraPose): Promise<FollowReport | null> {
    const { followed } = this;
    if (!followed || !piece.swarms.some((s) => s.id === followed.swarm && s.on)) return null;
    const all = await this.engine.particles(followed.swarm);
    const capacity = all.age.length;
    const i = followed.id % capacity;
    const alive = all.age[i]! >= 0 && all.age[i]! < all.life[i]!;
    if (!alive || this.idOf(followed.swarm, i, capacity) !== followed.id) {
      this.followed = null;
      return null;
    }
    const position: [number, number, number] = [all.px[i]!, all.py[i]!, all.pz[i]!];
    const { width, height } = piece.frame;
    const spot = project(camera, piece.frame, position);
    return {
      ...followed,
      x: spot ? spot[0] / width : -1,
      y: spot ? spot[1] / height : -1,
      position,
      age: all.age[i]!,
      life: all.life[i]!,
      size: all.size[i]!,
      opacity: all.opacity[i]!,
      speed: Math.hypot(all.vx[i]!, all.vy[i]!, all.vz[i]!),
    };
  }
}
