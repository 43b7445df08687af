import { Vec3, type Expr } from '@vast-swarm/kernel';
import { number } from '../../language/dials';
import { luminance } from '../../feeds/luminance';
import { treatment } from '../define';
import { cell } from './cell';

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

export const glyphs = treatment({
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
    const lit: Expr = dial.block(BITS, index).mul(there.select(1, dial.graph.float(0)));
    return new Vec3(colour.x, colour.y, colour.z).scale(lit.mul(dial.number('glow')));
  },
});
