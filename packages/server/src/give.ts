import { DEMO_SHOW } from '@vast-swarm/core/demo';
import { makePiece, pieceJsonSchema, pieceText } from '@vast-swarm/core/piece';
import { join } from 'node:path';
import { say } from './say';
import { makeFolder, writeWhole } from './writeWhole';

/** Commands that give something out without being given a piece. */

/** The demo show's pieces as files. Their stock is made by code, so that no further files are needed. */
export async function demo({ out }: { out: string }): Promise<void> {
  await makeFolder(out);
  for (const { id, piece } of DEMO_SHOW.pieces) {
    const file = join(out, `${id}.json`);
    await writeWhole(file, pieceText(piece));
    say(file);
  }
}

async function give(text: string, out: string | undefined): Promise<void> {
  if (out === undefined) process.stdout.write(text);
  else await writeWhole(out, text);
}

/** The JSON Schema of piece files, for editors and other programs. */
export async function schema({ out }: { out?: string }): Promise<void> {
  await give(`${JSON.stringify(pieceJsonSchema(), null, 2)}\n`, out);
}

/** A piece to begin with. */
export async function blank({ name, out }: { name: string; out?: string }): Promise<void> {
  await give(pieceText(makePiece(name)), out);
}
