import { mkdir, writeFile } from 'node:fs/promises';
import { DEMO_SHOW } from '@vast-swarm/core/demo';
import { pieceText } from '@vast-swarm/core/piece';

/** Writes the pieces of the demo show as files, for whoever has no browser at hand. */
await mkdir('demo', { recursive: true });
for (const { id, piece } of DEMO_SHOW.pieces) await writeFile(`demo/${id}.json`, pieceText(piece));
