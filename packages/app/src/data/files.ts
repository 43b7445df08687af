import { checkSize, parsePiece, pieceText, type Piece } from '@vast-swarm/core';

/** Reads a piece file that the artist chose or dropped. Throws PieceError. */
export async function readPieceFile(file: File): Promise<Piece> {
  checkSize(file.size);
  return parsePiece(await file.text());
}

export function fileNameOf(name: string): string {
  return (
    name
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-|-$/g, '') || 'piece'
  );
}

export function saveAs(blob: Blob, name: string): void {
  const url = URL.createObjectURL(blob);
  const link = document.createElement('a');
  link.href = url;
  link.download = name;
  link.click();
  // The download has begun by then; the browser keeps its own hold on the data.
  setTimeout(() => {
    URL.revokeObjectURL(url);
  }, 10_000);
}

export function exportPiece(piece: Piece): void {
  const blob = new Blob([pieceText(piece)], { type: 'application/json' });
  saveAs(blob, `${fileNameOf(piece.name)}.swarm.json`);
}
