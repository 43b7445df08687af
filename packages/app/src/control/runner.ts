import type { ControlValue } from '@vast-swarm/core/feeds';
import type { Moved, Offer, OutsideAct, RunnerNews, RunnerTold } from '@vast-swarm/core/formats';
import { ServerLink, type LinkState } from '../live/serverLink';

/** Milliseconds between values that are told. */
const TELL_EVERY = 50;

/** Lets a piece be run from outside, through the server of the page: says what there is, and does what is asked. */
export class Runner {
  private readonly link = new ServerLink('/control/run', {
    opened: () => {
      this.said = {};
      if (this.offer) this.send({ offer: this.offer });
      this.timer = setInterval(() => {
        this.tellValues();
      }, TELL_EVERY);
    },
    heard: (data) => {
      const { acts, moved } = JSON.parse(data as string) as RunnerTold;
      acts.forEach(this.act);
      moved.forEach(this.move);
    },
    closed: () => {
      if (this.timer) clearInterval(this.timer);
      this.timer = null;
    },
  });
  readonly told = this.link.told;
  private offer: Offer | null = null;
  private timer: ReturnType<typeof setInterval> | null = null;
  private said: Readonly<Record<string, ControlValue>> = {};

  /**
   * @param values what controls are now, by id
   * @param act is called with what is asked for
   * @param move is called with what has an address of its own, and may be learnt
   */
  constructor(
    private readonly values: () => Readonly<Record<string, ControlValue>>,
    private readonly act: (act: OutsideAct) => void,
    private readonly move: (moved: Moved) => void,
  ) {}

  get state(): LinkState {
    return this.link.state;
  }

  open(): void {
    this.link.open();
  }

  close(): void {
    this.link.close();
  }

  /** Sets what can be run, from now on. */
  setOffer(offer: Offer): void {
    if (JSON.stringify(offer) === JSON.stringify(this.offer)) return;
    this.offer = offer;
    this.send({ offer });
  }

  private send(news: RunnerNews): void {
    this.link.send(JSON.stringify(news));
  }

  /** Tells values that have changed. */
  private tellValues(): void {
    const now = this.values();
    const values = Object.fromEntries(
      Object.entries(now).filter(([id, value]) => this.said[id] !== value),
    );
    this.said = now;
    if (Object.keys(values).length > 0) this.send({ values });
  }
}
