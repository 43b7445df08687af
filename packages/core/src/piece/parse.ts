import { rateText } from './rate';
import { documentText, parseDocument, validateDocument } from './document';
import { migrate } from './migrate';
import { FORMAT, VERSION, type Piece } from './types';
import { pieceSchema } from './schema';

const PIECE = { what: 'piece', format: FORMAT, version: VERSION, schema: pieceSchema, migrate };

/**
 * Reads a piece file.
 * @throws PieceError with every problem that was found (20 at the most); nothing is half read
 */
export function parsePiece(text: string): Piece {
  return parseDocument(PIECE, text);
}

/** Checks data that is no text any more, as from the browser's storage. */
export function validatePiece(data: unknown): Piece {
  return validateDocument(PIECE, data);
}

/** The piece as its file's text. */
export function pieceText(piece: Piece): string {
  const { frame } = piece;
  return documentText({ ...piece, frame: { ...frame, rate: rateText(frame.rate) } });
}
