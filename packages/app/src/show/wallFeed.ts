import { levelsOf, universesOf, WallSampler, wattsOf, type Wall } from '@vast-swarm/core';
import { Listeners } from '../live/listeners';

/** How it stands with the server that sends to the wall. */
export type WallState = 'off' | 'opening' | 'open' | 'lost';

/** Milliseconds between two pictures at the least, and after which a lost server is looked for again. */
const [EVERY, AGAIN] = [30, 1500];
/** Pixels that the output is sampled at, across; several for each pixel of a usual wall. */
const ACROSS = 640;
/** Bytes that the server has not taken yet: beyond, a picture is left out. */
const BEHIND = 2 ** 18;

/** Shows a show on a wall: samples what is seen by its pixel map, and sends levels to the server. */
export class WallFeed {
  state: WallState = 'off';
  /** Watts that it takes now, before its limit. */
  watts = 0;
  private readonly watchers = new Listeners();
  readonly told = this.watchers.add;
  private socket: WebSocket | null = null;
  private wall: Wall | null = null;
  private sampler: WallSampler | null = null;
  private readonly context = document
    .createElement('canvas')
    .getContext('2d', { willReadFrequently: true })!;
  private last = 0;
  private later: ReturnType<typeof setTimeout> | null = null;

  /** @param paint paints what is seen into a canvas */
  constructor(private readonly paint: (context: CanvasRenderingContext2D) => void) {}

  private put(state: WallState): void {
    this.state = state;
    this.watchers.tell();
  }

  /** The wall as it stands in the show by now. */
  setWall(wall: Wall | null): void {
    if (wall === this.wall) return;
    this.wall = wall;
    this.sampler = null;
    if (!wall) this.close();
    else this.say();
  }

  open(): void {
    if (this.socket || !this.wall) return;
    this.put('opening');
    const url = new URL(`/wall/send${location.search}`, location.href);
    url.protocol = url.protocol.replace('http', 'ws');
    const socket = new WebSocket(url);
    this.socket = socket;
    socket.onopen = () => {
      this.say();
      this.put('open');
      this.show();
    };
    socket.onclose = () => {
      if (this.socket !== socket) return;
      this.socket = null;
      this.put('lost');
      setTimeout(() => {
        if (this.state === 'lost') this.open();
      }, AGAIN);
    };
  }

  close(): void {
    const { socket } = this;
    this.socket = null;
    socket?.close();
    if (this.state !== 'off') this.put('off');
  }

  /** Which channels come in which universe. */
  private say(): void {
    const { socket, wall } = this;
    if (!wall || socket?.readyState !== WebSocket.OPEN) return;
    const universes = universesOf(wall).map(({ universe, from, until }) => {
      return { universe, channels: 3 * (until - from) };
    });
    socket.send(JSON.stringify({ universes }));
  }

  /** Sends what is seen now, where there is time for it. */
  show(): void {
    const { socket, wall, context } = this;
    const now = performance.now();
    if (!wall || socket?.readyState !== WebSocket.OPEN || socket.bufferedAmount > BEHIND) return;
    const early = this.last + EVERY - now;
    if (early > 0) {
      // What is seen last is shown, too.
      this.later ??= setTimeout(() => {
        this.show();
      }, early);
      return;
    }
    if (this.later) clearTimeout(this.later);
    this.later = null;
    this.last = now;
    if (!this.sampler) {
      const { canvas } = context;
      canvas.width = ACROSS;
      canvas.height = Math.max(1, Math.round((ACROSS * wall.height) / wall.width));
      this.sampler = new WallSampler(wall, canvas.width, canvas.height);
    }
    const { width, height } = this.sampler;
    context.imageSmoothingQuality = 'high';
    this.paint(context);
    const light = this.sampler.light(context.getImageData(0, 0, width, height).data);
    this.watts = wattsOf(wall, light);
    socket.send(new Uint8Array(levelsOf(wall, light)));
  }
}
