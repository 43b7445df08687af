/** Reads boxes of letters out of a TrueType font by itself (OpenType 1.9.1: head, loca, glyf, cmap format 4, hmtx). */
export class GlyphBoxes {
  private readonly view: DataView;
  private readonly tables = new Map<string, number>();
  readonly em: number;

  constructor(bytes: Uint8Array) {
    this.view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
    for (let i = 0; i < this.u16(4); i++) {
      const at = 12 + 16 * i;
      this.tables.set(
        String.fromCharCode(...bytes.subarray(at, at + 4)),
        this.view.getUint32(at + 8),
      );
    }
    this.em = this.u16(this.at('head') + 18);
  }

  private u16(at: number): number {
    return this.view.getUint16(at);
  }

  private at(table: string): number {
    return this.tables.get(table)!;
  }

  /** The number of a letter's glyph. */
  glyph(letter: string): number {
    const [cmap, code] = [this.at('cmap'), letter.codePointAt(0)!];
    for (let i = 0; i < this.u16(cmap + 2); i++) {
      const sub = cmap + this.view.getUint32(cmap + 4 + 8 * i + 4);
      if (this.u16(sub) !== 4) continue;
      const segments = this.u16(sub + 6) / 2;
      for (let s = 0; s < segments; s++) {
        const end = sub + 14 + 2 * s;
        const start = end + 2 * segments + 2;
        if (code > this.u16(end) || code < this.u16(start)) continue;
        const [delta, range] = [start + 2 * segments, start + 4 * segments];
        const offset = this.u16(range);
        if (offset === 0) return (code + this.u16(delta)) & 0xffff;
        return this.u16(range + offset + 2 * (code - this.u16(start)));
      }
    }
    return 0;
  }

  /** Least x and y, then the largest, in units of the font. */
  box(letter: string): [number, number, number, number] {
    const [loca, glyph] = [this.at('loca'), this.glyph(letter)];
    const long = this.u16(this.at('head') + 50) === 1;
    const offset = long ? this.view.getUint32(loca + 4 * glyph) : 2 * this.u16(loca + 2 * glyph);
    const at = this.at('glyf') + offset;
    return [2, 4, 6, 8].map((k) => this.view.getInt16(at + k)) as [number, number, number, number];
  }

  /** How far the next letter stands behind it, before kerning. */
  advance(letter: string): number {
    const many = this.u16(this.at('hhea') + 34);
    return this.u16(this.at('hmtx') + 4 * Math.min(this.glyph(letter), many - 1));
  }
}
