import { readFile, writeFile } from 'node:fs/promises';
import { withKindList } from '@vast-swarm/core/formats';

/** Writes the list of kinds into docs/file-format.md, behind its heading. */
const file = 'docs/file-format.md';
await writeFile(file, withKindList(await readFile(file, 'utf8')));
