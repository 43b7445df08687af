import { Arrivals, LiveMotion, type CastMember, type Motion } from '@vast-swarm/core/stock';
import { clock } from '../../workers/clock';
import type { Recorder } from './recording';

/** A pose for a recording: the number of who it is, when it was by their clock, when it arrived, and where joints are. */
export type ArrivedPose = [who: number, time: number, arrived: number, places: Float32Array];

/** Performers who are coming: who they are, how they stand, and where their poses come out, as ArrivedPose. */
export interface Coming {
  cast: readonly CastMember[];
  /** x, y, z of all joints of the first of the cast, then of the next, and so on. */
  first: Float32Array;
  port: MessagePort;
}

/** The take of performers, and the frame of the piece at which it begins. */
export interface MotionTake {
  part: string;
  start: number;
  motion: Motion;
  /** Whether it ended because a take holds no more. */
  full: boolean;
}

/**
 * Performers whose joints come in and drive the piece. Each frame takes where they are now, a little behind the newest
 * that has arrived (see Arrivals); the take is made of nothing but that, a pose for each frame.
 */
export class MotionRecorder implements Recorder<LiveMotion, MotionTake> {
  private readonly arrivals: Arrivals[];
  private live: LiveMotion | null = null;

  /**
   * @param part id of the performer of the piece
   * @param now seconds, by the clock of those who say when poses arrived
   */
  constructor(
    readonly part: string,
    private readonly coming: Omit<Coming, 'port'> & {
      port: Pick<MessagePort, 'onmessage' | 'close'>;
    },
    private readonly now: () => number = clock,
  ) {
    this.arrivals = coming.cast.map(() => new Arrivals());
    coming.port.onmessage = ({ data: [who, time, arrived, places] }: MessageEvent<ArrivedPose>) => {
      this.arrivals[who]!.take(time, arrived, places);
    };
  }

  get input(): LiveMotion | null {
    return this.live;
  }

  begin(frame: number, frameRate: number): void {
    this.live = new LiveMotion(this.coming.cast, this.pose(), frameRate, frame);
  }

  /** Before a step to `frame`: takes where they are. */
  until(frame: number): void {
    const live = this.live!;
    while (live.start + live.changes <= frame && !live.full) live.append(this.pose());
  }

  /** Where all of them are now; who has not moved yet stands as at first. */
  private pose(): Float32Array {
    const { cast, first } = this.coming;
    const pose = first.slice();
    let at = 0;
    cast.forEach(({ joints }, who) => {
      const places = this.arrivals[who]!.at(this.now());
      if (places) pose.set(places, at);
      at += 3 * joints.length;
    });
    return pose;
  }

  /** Ends the take; null where it was not begun. */
  end(): MotionTake | null {
    const { live, part } = this;
    this.coming.port.close();
    return live && { part, start: live.start, motion: live.end(), full: live.full };
  }
}
