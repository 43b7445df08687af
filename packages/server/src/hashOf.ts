import { createHash } from 'node:crypto';

/** The SHA-256 of bytes or of a text, in hexadecimal. */
export const hashOf = (of: Uint8Array | string): string =>
  createHash('sha256').update(of).digest('hex');
