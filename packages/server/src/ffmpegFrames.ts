import { StockError, type DecodeFrom, type Planes, type VideoFile } from '@vast-swarm/core/stock';
import { spawn, type ChildProcessByStdio } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import type { Socket } from 'node:net';
import { tmpdir } from 'node:os';
import { extname, join } from 'node:path';
import type { Readable } from 'node:stream';

/** Folders of files that ffmpeg reads; gone when the program ends. */
let folder: string | undefined;
let files = 0;

/** Where ffmpeg can look about in a file: what a pipe brings it cannot. */
function onDisk({ name, bytes }: VideoFile): string {
  if (folder === undefined) {
    const made = mkdtempSync(join(tmpdir(), 'vast-swarm-clips-'));
    folder = made;
    process.on('exit', () => {
      rmSync(made, { recursive: true, force: true });
    });
  }
  const path = join(folder, `${String(files++)}${extname(name)}`);
  writeFileSync(path, bytes);
  return path;
}

/**
 * Decodes a video by ffmpeg, as a child process that is fed and read: planes as they are coded, in the order they
 * are shown in, none left out, none twice.
 *
 * @throws StockError where there is no ffmpeg, or it cannot read the file
 */
export function ffmpegFrames(file: VideoFile): DecodeFrom {
  let path: string | undefined;
  return async function* (index) {
    path ??= onDisk(file);
    const whole = /\.(mp4|mov)$/i.test(path) ? ['-ignore_editlist', '1'] : [];
    const child = spawn(
      'ffmpeg',
      [
        '-v',
        'error',
        '-nostdin',
        '-noautorotate',
        ...whole,
        '-i',
        path,
        '-map',
        '0:v:0',
        '-vsync',
        'passthrough',
        '-f',
        'yuv4mpegpipe',
        '-strict',
        '-1',
        'pipe:1',
      ],
      { stdio: ['ignore', 'pipe', 'pipe'] },
    );
    let said = '';
    child.stderr.on('data', (part: Buffer) => (said += part.toString()));
    const ended = new Promise<void>((resolve, reject) => {
      child.on('close', () => {
        resolve();
      });
      child.on('error', (error: NodeJS.ErrnoException) => {
        reject(missing(file.name, error));
      });
    });
    ended.catch(() => undefined);
    let any = false;
    try {
      let left = index;
      for await (const planes of framesOf(file.name, child.stdout)) {
        if (left-- > 0) continue;
        any = true;
        // Between two pictures nobody waits: a child that is not done is no reason to go on.
        hold(child, false);
        yield planes;
        hold(child, true);
      }
      await ended;
      if (!any && index === 0) {
        throw new StockError(file.name, `ffmpeg cannot read it (${said.trim().split('\n')[0]!})`);
      }
    } finally {
      child.kill();
    }
  };
}

/** Whether the program goes on as long as the child does. */
function hold(child: ChildProcessByStdio<null, Readable, Readable>, holds: boolean): void {
  // Pipes of a child are sockets, and keep a program going as they do.
  const parts = [child, child.stdout, child.stderr] as unknown as Pick<Socket, 'ref' | 'unref'>[];
  for (const part of parts) part[holds ? 'ref' : 'unref']();
}

function missing(name: string, error: NodeJS.ErrnoException): Error {
  if (error.code !== 'ENOENT') return error;
  return new StockError(
    name,
    "it is a video, and there is no ffmpeg here to decode it; install the package 'ffmpeg'",
  );
}

/** Frames of a YUV4MPEG2 stream: a line about it, then for each frame a line and its planes. */
async function* framesOf(
  name: string,
  stream: AsyncIterable<Buffer>,
): AsyncGenerator<Planes, void, undefined> {
  let waiting: Buffer[] = [];
  let size = 0;
  let shape: { width: number; height: number; bytes: number } | null = null;
  for await (const part of stream) {
    waiting.push(part);
    size += part.length;
    if (shape && size < shape.bytes) continue;
    let all = Buffer.concat(waiting);
    for (;;) {
      const line = all.indexOf(10);
      if (line < 0) break;
      if (!shape) {
        shape = shapeOf(name, all.toString('latin1', 0, line));
        all = all.subarray(line + 1);
        continue;
      }
      if (all.length < line + 1 + shape.bytes) break;
      yield planesOf(shape, all.subarray(line + 1, line + 1 + shape.bytes));
      all = all.subarray(line + 1 + shape.bytes);
    }
    waiting = [all];
    size = all.length;
  }
}

function shapeOf(name: string, head: string): { width: number; height: number; bytes: number } {
  const field = (letter: string): string => new RegExp(` ${letter}(\\S+)`).exec(head)?.[1] ?? '';
  const [width, height, coded] = [Number(field('W')), Number(field('H')), field('C')];
  if (!/^420(jpeg|mpeg2|paldv)?$/.test(coded)) {
    const want = 'bring it as H.264, VP9 or AV1 with 8 bits and 4:2:0';
    throw new StockError(name, `its pictures are coded as ${coded}; ${want}`);
  }
  const half = ((width + 1) >> 1) * ((height + 1) >> 1);
  return { width, height, bytes: width * height + 2 * half };
}

function planesOf({ width, height }: { width: number; height: number }, data: Buffer): Planes {
  const [stride, rows] = [(width + 1) >> 1, (height + 1) >> 1];
  const [luma, half] = [width * height, stride * rows];
  return {
    width,
    height,
    lumaStride: width,
    chromaStride: stride,
    chromaStep: 1,
    luma: data.subarray(0, luma),
    blue: data.subarray(luma, luma + half),
    red: data.subarray(luma + half, luma + 2 * half),
  };
}
