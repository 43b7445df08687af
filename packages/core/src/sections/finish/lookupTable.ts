import { mix, Vec3, type Expr } from '@vast-swarm/kernel';
import { number, stockDial } from '../../language/dials';
import { treatment } from '../define';

export const lookupTable = treatment({
  type: 'pixel',
  kind: 'lookupTable',
  title: 'Lookup table',
  help: 'Colours through a table from a .cube file.',
  icon: 'M12 3l8 4.5v9L12 21l-8-4.5v-9zM8 5.2l8 4.6v9M16 5.2L8 9.8v9M4 12l8 4.5l8-4.5',
  dials: {
    table: stockDial('Table', ['table'], 'From a .cube file.'),
    strength: number('Strength', 1, [0, 2], 'Over 1 goes further than the table.'),
  },
  /** Straight between the eight entries around a colour. */
  build({ dial }, colour) {
    const table = dial.stock('table');
    if (table?.type !== 'table') return colour;
    const { size, values, low, high } = table;
    const at = (k: 'x' | 'y' | 'z', axis: number): { cell: Expr; part: Expr } => {
      const span = Math.max(1e-6, high[axis]! - low[axis]!);
      const place = colour[k]
        .sub(low[axis]!)
        .div(span)
        .clamp(0, 1)
        .mul(size - 1);
      const cell = place.floor().min(size - 2);
      return { cell, part: place.sub(cell) };
    };
    const [r, g, b] = [at('x', 0), at('y', 1), at('z', 2)];
    // Red runs fastest.
    const index = r.cell
      .add(g.cell.mul(size))
      .add(b.cell.mul(size * size))
      .toInt();
    const entry = (dr: number, dg: number, db: number, channel: number): Expr => {
      const offset = dr + dg * size + db * size * size;
      return dial.block(values, index.add(offset).mul(3).add(channel));
    };
    const channel = (c: number): Expr => {
      const line = (dg: number, db: number): Expr =>
        mix(entry(0, dg, db, c), entry(1, dg, db, c), r.part);
      const side = (db: number): Expr => mix(line(0, db), line(1, db), g.part);
      return mix(side(0), side(1), b.part);
    };
    const found = new Vec3(channel(0), channel(1), channel(2));
    return Vec3.mix(colour, found, dial.number('strength'));
  },
});
