import type {
  ControlValue,
  Moved,
  Offer,
  OutsideAct,
  RunnerNews,
  RunnerTold,
} from '@vast-swarm/core';
import { Listeners } from '../live/listeners';

/** How it stands with the server: not asked, looked for, there, or gone and looked for again. */
export type RunnerState = 'off' | 'opening' | 'open' | 'lost';

/** Milliseconds after which a lost server is looked for again, and between values that are told. */
const [AGAIN, TELL_EVERY] = [1000, 50];

/** Lets a piece be run from outside, through the server of the page: says what there is, and does what is asked. */
export class Runner {
  state: RunnerState = 'off';
  private readonly watchers = new Listeners();
  readonly told = this.watchers.add;
  private socket: WebSocket | null = null;
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

  private put(state: RunnerState): void {
    this.state = state;
    this.watchers.tell();
  }

  open(): void {
    if (this.socket) return;
    this.put(this.state === 'lost' ? 'lost' : 'opening');
    const url = new URL(`/control/run${location.search}`, location.href);
    url.protocol = url.protocol.replace('http', 'ws');
    const socket = new WebSocket(url);
    this.socket = socket;
    socket.onopen = () => {
      if (this.socket !== socket) return;
      this.said = {};
      if (this.offer) this.send({ offer: this.offer });
      this.timer = setInterval(() => {
        this.tellValues();
      }, TELL_EVERY);
      this.put('open');
    };
    socket.onmessage = ({ data }: MessageEvent<string>) => {
      const { acts, moved } = JSON.parse(data) as RunnerTold;
      if (this.socket !== socket) return;
      acts.forEach(this.act);
      moved.forEach(this.move);
    };
    socket.onclose = () => {
      if (this.socket !== socket) return;
      this.release();
      this.put('lost');
      setTimeout(() => {
        if (this.state === 'lost') this.open();
      }, AGAIN);
    };
  }

  private release(): void {
    if (this.timer) clearInterval(this.timer);
    this.timer = null;
    this.socket = null;
  }

  close(): void {
    const { socket } = this;
    this.release();
    socket?.close();
    this.put('off');
  }

  /** What can be run, from now on. */
  setOffer(offer: Offer): void {
    if (JSON.stringify(offer) === JSON.stringify(this.offer)) return;
    this.offer = offer;
    this.send({ offer });
  }

  private send(news: RunnerNews): void {
    if (this.socket?.readyState === WebSocket.OPEN) this.socket.send(JSON.stringify(news));
  }

  /** What has changed. */
  private tellValues(): void {
    const now = this.values();
    const values = Object.fromEntries(
      Object.entries(now).filter(([id, value]) => this.said[id] !== value),
    );
    this.said = now;
    if (Object.keys(values).length > 0) this.send({ values });
  }
}
