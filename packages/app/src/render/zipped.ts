import { strToU8, Zip, ZipPassThrough } from 'fflate';
import { pieceText, type Piece } from '@vast-swarm/core/piece';

/** Files in a zip as they come, stored without a second compression, and the piece itself behind them. */
export class Zipped {
  private readonly parts: Blob[] = [];
  private failure: Error | null = null;
  private readonly zip = new Zip((error, chunk) => {
    if (error) this.failure = error;
    else this.parts.push(new Blob([chunk]));
  });

  put(name: string, parts: Iterable<Uint8Array>): void {
    const entry = new ZipPassThrough(name);
    this.zip.add(entry);
    for (const part of parts) entry.push(part);
    entry.push(new Uint8Array(0), true);
    if (this.failure) throw this.failure;
  }

  finish(piece: Piece): Blob {
    this.put('piece.swarm.json', [strToU8(pieceText(piece))]);
    this.zip.end();
    return new Blob(this.parts, { type: 'application/zip' });
  }
}
