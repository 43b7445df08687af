import { levelsOf, universesOf, WallSampler, wattsOf, type Wall } from '@vast-swarm/core/show';
import { ServerLink, type LinkState } from '../live/serverLink';

/** Milliseconds between two pictures at the least. */
const EVERY = 30;
/** Pixels that the output is sampled at, across; several for each pixel of a usual wall. */
const ACROSS = 640;
/** Bytes that the server has not taken yet: beyond, a picture is left out. */
const BEHIND = 2 ** 18;

/** Shows a show on a wall: samples what is seen by its pixel map, and sends levels to the server. */
export class WallFeed {
  private readonly link = new ServerLink('/wall/send', {
    opened: () => {
      this.say();
      this.show();
    },
  });
  readonly told = this.link.told;
  /** Watts that it takes now, before its limit. */
  watts = 0;
  private wall: Wall | null = null;
  private sampler: WallSampler | null = null;
  private readonly context = document
    .createElement('canvas')
    .getContext('2d', { willReadFrequently: true })!;
  private last = 0;
  private later: ReturnType<typeof setTimeout> | null = null;

  /** @param paint paints what is seen into a canvas */
  constructor(private readonly paint: (context: CanvasRenderingContext2D) => void) {}

  get state(): LinkState {
    return this.link.state;
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
    if (this.wall) this.link.open();
  }

  close(): void {
    this.link.close();
  }

  /** Which channels come in which universe. */
  private say(): void {
    const { link, wall } = this;
    if (!wall) return;
    const universes = universesOf(wall).map(({ universe, from, until }) => {
      return { universe, channels: 3 * (until - from) };
    });
    link.send(JSON.stringify({ universes }));
  }

  /** Sends what is seen now, where there is time for it. */
  show(): void {
    const { link, wall, context } = this;
    const now = performance.now();
    if (!wall || link.behind > BEHIND) return;
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
    link.send(new Uint8Array(levelsOf(wall, light)));
  }
}
