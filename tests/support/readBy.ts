import { execFileSync } from 'node:child_process';

/** Pixels of a file as ffmpeg reads them, in one of its formats of pixels; `before` stands before the file. */
export function readBy(path: string, format: string, ...before: string[]): Buffer {
  const args = ['-v', 'error', ...before, '-i', path, '-f', 'rawvideo', '-pix_fmt', format, '-'];
  return execFileSync('ffmpeg', args, { maxBuffer: 2 ** 28 });
}
