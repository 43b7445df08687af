import { addressed, universesOf, type Panel, type Wall } from '@vast-swarm/core/show';
import { fromLinear } from '@vast-swarm/core/feeds';

/** How many times smaller the light around is drawn. */
const SOFT = 8;

/** Room round the wall, as a part of its size. */
const MARGIN = 0.04;

/** A panel, with a small picture of its pixels. */
interface Face {
  panel: Panel;
  picture: CanvasRenderingContext2D;
  pixels: ImageData;
  /** Where each of its pixels is in the small picture, in the order in which they are addressed. */
  places: Uint32Array;
  /** The first of its pixels among all of the wall. */
  first: number;
}

/** A canvas of a size, with nothing on it; it is made anew only where it has another. */
function emptied(context: CanvasRenderingContext2D, width: number, height: number): void {
  const { canvas } = context;
  const size = [Math.max(1, Math.ceil(width)), Math.max(1, Math.ceil(height))] as const;
  if (canvas.width !== size[0] || canvas.height !== size[1]) [canvas.width, canvas.height] = size;
  context.resetTransform();
  context.clearRect(0, 0, ...size);
}

/** Draws a wall of panels: each pixel a lit dot in its dark housing, and the light around. */
export class WallPainter {
  private readonly faces: Face[];
  /** Colour of a level on screen, by the light that panels make of it. */
  private readonly seen: Uint8Array;
  /** By universe: its first pixel. */
  private readonly firsts: ReadonlyMap<number, number>;
  private readonly glow = document.createElement('canvas').getContext('2d')!;
  private readonly dots = new Map<number, CanvasPattern | null>();

  constructor(
    private readonly wall: Wall,
    private readonly canvas: HTMLCanvasElement,
  ) {
    this.seen = Uint8Array.from({ length: 256 }, (_, level) =>
      Math.round(255 * fromLinear((level / 255) ** wall.gamma)),
    );
    this.firsts = new Map(universesOf(wall).map((u) => [u.universe, u.from]));
    let first = 0;
    this.faces = wall.panels.map((panel) => {
      const { columns, rows } = panel;
      const small = Object.assign(document.createElement('canvas'), {
        width: columns,
        height: rows,
      });
      const picture = small.getContext('2d')!;
      const pixels = picture.createImageData(columns, rows);
      for (let i = 3; i < pixels.data.length; i += 4) pixels.data[i] = 255;
      const places = Uint32Array.from(addressed(panel), ([x, y]) => y * columns + x);
      const face = { panel, picture, pixels, places, first };
      first += columns * rows;
      return face;
    });
  }

  /** Levels as they came: universe, number of channels, and those, one behind the other. */
  take(data: DataView): void {
    for (let at = 0; at + 4 <= data.byteLength;) {
      const [universe, count] = [data.getUint16(at), data.getUint16(at + 2)];
      const from = this.firsts.get(universe);
      if (from !== undefined)
        this.put(from, new Uint8Array(data.buffer, data.byteOffset + at + 4, count));
      at += 4 + count;
    }
  }

  private put(first: number, levels: Uint8Array): void {
    const face = this.faces.findLast((f) => f.first <= first);
    if (!face) return;
    const { places, pixels, first: begin } = face;
    const pixelsHere = Math.min(Math.floor(levels.length / 3), places.length - (first - begin));
    for (let i = 0; i < pixelsHere; i++) {
      const to = 4 * places[first - begin + i]!;
      for (let c = 0; c < 3; c++) pixels.data[to + c] = this.seen[levels[3 * i + c]!]!;
    }
  }

  paint(): void {
    const { canvas, wall } = this;
    const scale = devicePixelRatio;
    const context = canvas.getContext('2d')!;
    emptied(context, canvas.clientWidth * scale, canvas.clientHeight * scale);
    const room = 1 + 2 * MARGIN;
    const metre = Math.min(
      canvas.width / (wall.width * room),
      canvas.height / (wall.height * room),
    );
    context.translate(
      (canvas.width - wall.width * metre) / 2,
      (canvas.height - wall.height * metre) / 2,
    );
    for (const { picture, pixels } of this.faces) picture.putImageData(pixels, 0, 0);
    // The light that it throws around: what is that soft is drawn small.
    const { canvas: glow } = this.glow;
    emptied(this.glow, canvas.width / SOFT, canvas.height / SOFT);
    const { e, f } = context.getTransform();
    this.glow.setTransform(1 / SOFT, 0, 0, 1 / SOFT, e / SOFT, f / SOFT);
    this.glow.filter = `blur(${((0.18 * metre) / SOFT).toFixed(1)}px)`;
    for (const face of this.faces) this.face(this.glow, face, metre, true);
    context.globalAlpha = 0.4;
    context.drawImage(glow, -e, -f, canvas.width, canvas.height);
    context.globalAlpha = 1;
    for (const face of this.faces) this.face(context, face, metre, false);
    // Bright dots dazzle: they are seen larger than they are.
    context.globalCompositeOperation = 'lighter';
    context.globalAlpha = 0.55;
    for (const face of this.faces) this.face(context, face, metre, true);
    context.globalAlpha = 1;
    context.globalCompositeOperation = 'source-over';
  }

  private face(
    context: CanvasRenderingContext2D,
    { panel, picture }: Face,
    metre: number,
    smooth: boolean,
  ): void {
    const { x, y, columns, rows, pitch, turn } = panel;
    const each = (pitch / 1000) * metre;
    const [width, height] = [columns * each, rows * each];
    context.save();
    context.translate(x * metre, y * metre);
    context.rotate((turn * Math.PI) / 180);
    context.translate(-width / 2, -height / 2);
    context.imageSmoothingEnabled = smooth;
    context.drawImage(picture.canvas, 0, 0, width, height);
    if (!smooth) this.house(context, each, width, height);
    context.restore();
  }

  /** Paints the dark between the pixels. */
  private house(
    context: CanvasRenderingContext2D,
    each: number,
    width: number,
    height: number,
  ): void {
    const pattern = this.dotsOf(context, each);
    if (!pattern) return;
    context.fillStyle = pattern;
    context.fillRect(0, 0, width, height);
    context.strokeStyle = '#1a2326';
    context.lineWidth = Math.max(1, each / 4);
    context.strokeRect(0, 0, width, height);
  }

  private dotsOf(context: CanvasRenderingContext2D, each: number): CanvasPattern | null {
    const known = this.dots.get(each);
    if (known !== undefined) return known;
    // One tile larger than it is drawn, so that its dot is round.
    const size = 32;
    const tile = Object.assign(document.createElement('canvas'), { width: size, height: size });
    const on = tile.getContext('2d')!;
    const half = size / 2;
    const edge = on.createRadialGradient(half, half, 0.26 * size, half, half, 0.6 * size);
    edge.addColorStop(0, 'rgba(6, 9, 10, 0)');
    edge.addColorStop(1, 'rgba(6, 9, 10, 0.92)');
    on.fillStyle = edge;
    on.fillRect(0, 0, size, size);
    const pattern = context.createPattern(tile, 'repeat');
    pattern?.setTransform(new DOMMatrix().scale(each / size));
    this.dots.set(each, pattern);
    return pattern;
  }
}
