import '@vast-swarm/core/content';
import { readdir, readFile, writeFile } from 'node:fs/promises';
import { parsePiece, pieceText } from '@vast-swarm/core/piece';

/** Brings the pieces of the demo show to today's version of the file, as any older file is. */
for (const file of await readdir('demo')) {
  const text = await readFile(`demo/${file}`, 'utf8');
  await writeFile(`demo/${file}`, pieceText(parsePiece(text)));
}
