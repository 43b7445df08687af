import { zlibSync } from 'fflate';

/** Packs bytes as zlib has them (RFC 1950). */
export type Packer = (bytes: Uint8Array) => Promise<Uint8Array> | Uint8Array;

/** Differences of neighbours have few repeats that would be worth a longer search. */
let packer: Packer = (bytes) => zlibSync(bytes, { level: 1 });

/** Takes what packs faster, where it is run: on the command line the machine's own. */
export function packBy(own: Packer): void {
  packer = own;
}

export async function packed(bytes: Uint8Array): Promise<Uint8Array> {
  return packer(bytes);
}
