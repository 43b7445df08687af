import {
  checkSize,
  describeProblem,
  parsePiece,
  PieceError,
  setDial,
  type Piece,
} from '@vast-swarm/core';
import { readFile, stat } from 'node:fs/promises';
import { Refused } from './refused';

export interface WorkOptions {
  set: string[];
  threads: number;
}

/** Reads a piece file; errors name the file, the line and the field. */
export async function load(file: string, { set }: Pick<WorkOptions, 'set'>): Promise<Piece> {
  try {
    const { size } = await stat(file);
    checkSize(size);
    return set.reduce(setDial, parsePiece(await readFile(file, 'utf8')));
  } catch (error) {
    if (error instanceof PieceError) {
      throw new Refused(error.problems.map((p) => `${file}: ${describeProblem(p)}`).join('\n'));
    }
    if (error instanceof Error && 'code' in error) {
      throw new Refused(`${file}: cannot be read (${String(error.code)}).`);
    }
    throw error;
  }
}
