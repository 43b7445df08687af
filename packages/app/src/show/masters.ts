import type { Done, Show } from '@vast-swarm/core/show';
import type { StoredNight } from '../data/db';
import { Ways } from './ways';

interface Told {
  /** Something was done, and is to be written down. */
  done: (act: Done) => void;
  /** Called when the picture is another. */
  seen: () => void;
  /** Time may go otherwise. */
  paced: () => void;
}

/** Settings of the whole show: how bright it is, how fast, whether it stands still, is dark, or is the test card. */
export class Masters {
  brightness: number;
  speed: number;
  held = false;
  blackout = false;
  test = false;
  private readonly way = new Ways();

  constructor(
    show: Pick<Show, 'brightness' | 'speed'>,
    private readonly told: Told,
  ) {
    this.brightness = show.brightness;
    this.speed = show.speed;
  }

  /** Whether time goes. */
  get goes(): boolean {
    return !this.held && this.speed > 0;
  }

  /** As it is at the beginning of a night, or where one was left. */
  set(to: Pick<Show, 'brightness' | 'speed'> & Partial<StoredNight>): void {
    const { brightness, speed, held = false, blackout = false } = to;
    this.way.end();
    Object.assign(this, { brightness, speed, held, blackout });
    this.told.seen();
  }

  shine(to: number, over = 0): void {
    this.told.done({ all: 'brightness', to, ...(over ? { over } : {}) });
    this.way.send('brightness', { from: this.brightness, to, over }, (value) => {
      this.brightness = value as number;
      this.told.seen();
    });
  }

  pace(to: number): void {
    this.told.done({ all: 'speed', to });
    this.speed = to;
    this.told.paced();
  }

  hold(to: boolean): void {
    this.told.done({ all: 'held', to });
    this.held = to;
    this.told.paced();
  }

  darken(to: boolean): void {
    this.told.done({ all: 'blackout', to });
    this.blackout = to;
    this.told.seen();
  }

  showTest(on: boolean): void {
    this.test = on;
    this.told.seen();
  }

  stop(): void {
    this.way.stop();
  }
}
