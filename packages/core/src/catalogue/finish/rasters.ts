import { cos, sin, smoothstep, Vec3, type Expr } from '@vast-swarm/kernel';
import { choice, number } from '../dials';
import type { AroundFinishKind } from '../kinds';
import { luminance } from '../../feeds/luminance';

const cell = number('Cell', 0.02, [0.003, 0.5], 'As a part of the height.', { drag: 'log' });

export const halftone: AroundFinishKind = {
  type: 'around',
  kind: 'halftone',
  title: 'Halftone',
  help: 'Dots in a grid, larger where there is more light.',
  icon: 'M6 6h.01M12 6h.01M18 6h.01M6 12h.01M12 12h.01M18 12h.01M6 18h.01M12 18h.01M18 18h.01',
  dials: {
    cell,
    turn: number('Turn', 30, [-36000, 36000], 'Of the grid.', { unit: '°' }),
    form: choice('Form', 'dot', { dot: 'Dots', line: 'Lines' }, 'What the grid is made of.'),
  },
  build({ dial, pixel }) {
    const size = dial.number('cell').mul(pixel.height);
    const angle = dial.number('turn').mul(Math.PI / 180);
    const [c, s] = [cos(angle), sin(angle)];
    const u = pixel.x.mul(c).add(pixel.y.mul(s)).div(size);
    const v = pixel.y.mul(c).sub(pixel.x.mul(s)).div(size);
    const [mu, mv] = [u.floor().add(0.5), v.floor().add(0.5)];
    const [x, y] = [mu.mul(c).sub(mv.mul(s)).mul(size), mu.mul(s).add(mv.mul(c)).mul(size)];
    const colour = pixel.sample(x, y);
    const light = luminance(colour).clamp(0, 1);
    const [du, dv] = [u.sub(mu), v.sub(mv)];
    // The dot's area is the light's part of the cell.
    const dot = dial.choice('form') === 'dot';
    const radius = dot ? light.div(Math.PI).sqrt() : light.mul(0.5);
    const far = dot ? du.mul(du).add(dv.mul(dv)).sqrt() : dv.abs();
    const soft = dial.graph.float(1).div(size);
    const inside = dial.graph.float(1).sub(smoothstep(radius.sub(soft), radius.add(soft), far));
    const full = colour.scale(dial.graph.float(1).div(light.max(0.02)));
    return full.scale(inside);
  },
};

/** Our own signs of five by seven dots, from little light to much, a row of bits each. */
const SIGNS = [
  [0, 0, 0, 0, 0, 0, 0],
  [0, 0, 0, 0b00100, 0, 0, 0],
  [0, 0, 0b00100, 0, 0b00100, 0, 0],
  [0, 0, 0, 0b01110, 0, 0, 0],
  [0, 0, 0b00100, 0b01110, 0b00100, 0, 0],
  [0, 0b10001, 0b01010, 0b00100, 0b01010, 0b10001, 0],
  [0, 0b01110, 0b10001, 0b10101, 0b10001, 0b01110, 0],
  [0b01010, 0b11111, 0b01010, 0b01010, 0b11111, 0b01010, 0],
  [0b11011, 0b10101, 0b11011, 0b10101, 0b11011, 0b10101, 0b11011],
  [0b11111, 0b11111, 0b11111, 0b11111, 0b11111, 0b11111, 0b11111],
];
const BITS = Float32Array.from(
  SIGNS.flatMap((rows) => rows.flatMap((row) => [16, 8, 4, 2, 1].map((b) => (row & b ? 1 : 0)))),
);

export const glyphs: AroundFinishKind = {
  type: 'around',
  kind: 'glyphs',
  title: 'Glyphs',
  help: 'Small signs of dots, denser where there is more light.',
  icon: 'M4 5h6v6H4zM14 6h6M17 3v6M5 14l5 5M10 14l-5 5M14 14h6v5h-6z',
  dials: {
    cell: { ...cell, default: 0.03 },
    glow: number('Glow', 1.5, [0, 20], 'Light of the signs.'),
  },
  build({ dial, pixel }) {
    const tall = dial.number('cell').mul(pixel.height);
    // A sign is six by eight dots with the room between.
    const wide = tall.mul(0.75);
    const [u, v] = [pixel.x.div(wide), pixel.y.div(tall)];
    const [cu, cv] = [u.floor(), v.floor()];
    const colour = pixel.sample(cu.add(0.5).mul(wide), cv.add(0.5).mul(tall));
    const light = luminance(colour).clamp(0, 1).sqrt();
    const sign = light
      .mul(SIGNS.length)
      .floor()
      .min(SIGNS.length - 1);
    const [x, y] = [u.sub(cu).mul(6).floor(), v.sub(cv).mul(8).floor()];
    const there = x.lt(5).and(y.lt(7));
    const index = sign.mul(35).add(y.min(6).mul(5)).add(x.min(4)).toInt();
    const lit: Expr = dial.builder
      .block('data/signs', BITS, index)
      .mul(there.select(1, dial.graph.float(0)));
    return new Vec3(colour.x, colour.y, colour.z).scale(lit.mul(dial.number('glow')));
  },
};
