import { mixOf, type Heard } from '@vast-swarm/core/stock';
import { rateAsFraction } from '@vast-swarm/core/piece';
import { samplesOf, type Drawer, type Frame } from '@vast-swarm/core/formats';
import { execFile, spawn } from 'node:child_process';
import { once } from 'node:events';
import { rename, rm } from 'node:fs/promises';
import { basename, dirname, resolve } from 'node:path';
import type { Readable, Writable } from 'node:stream';
import { promisify } from 'node:util';
import { Refused } from '../refused';
import { makeFolder, whyNot } from '../writeWhole';
import type { Delivery, Making } from './delivery';
import { takeLock } from './lock';
import {
  unfitIn,
  videoOf,
  type CodecName,
  type Quality,
  type VideoFormat,
} from '@vast-swarm/core/formats';
import { encoderOf, wrapperOf } from './videos';

/** Samples of sound a second. */
const SOUND_RATE = 48_000;

/** Settings of a video. */
export interface VideoAsked extends Making {
  file: string;
  format: VideoFormat;
  codec: CodecName;
  quality: Quality;
  /** Bits a second, where it is to be steady, in millions. */
  bits?: number;
  /** Frames a second. */
  rate: number;
  /** Its sounds, at seconds of its first frame's count. */
  heard: readonly Heard[];
  first: number;
  last: number;
}

const MISSING = "there is no ffmpeg here to write a video; install the package 'ffmpeg'.";

/** @throws Refused where there is no ffmpeg, or it has not this encoder */
async function checkEncoder(encoder: string): Promise<void> {
  const listed = await promisify(execFile)('ffmpeg', ['-hide_banner', '-encoders']).catch(
    (given: unknown) => {
      const error = given as NodeJS.ErrnoException;
      throw new Refused(
        error.code === 'ENOENT' ? MISSING : `ffmpeg does not run: ${error.message}`,
      );
    },
  );
  if (new RegExp(`^ V\\S* ${encoder} `, 'm').test(listed.stdout)) return;
  throw new Refused(
    `the ffmpeg here has no encoder '${encoder}'; install one that has it, or take another --codec.`,
  );
}

/** @throws Refused where these cannot be written together */
export function checkVideo(asked: VideoAsked): void {
  const unfit = unfitIn(asked);
  if (unfit === null) return;
  const { format, codec, width, height } = asked;
  const size = `--size ${String(width)}x${String(height)}: a video has an even width and height.`;
  const why = {
    codec: `--codec ${codec}: a .${format} file has ${videoOf(format).codecs.join(' or ')}.`,
    alpha: `--alpha: ${codec} has no transparency; take --format webm with vp9, or --format mov.`,
    width: size,
    height: size,
  };
  throw new Refused(why[unfit]);
}

/** How ffmpeg is told to make it of raw frames at its input, and of sound at its fourth pipe. */
function argumentsOf(asked: VideoAsked, sound: boolean, part: string): string[] {
  const { format, codec, quality, bits, alpha, width, height } = asked;
  const { encoder, pixels, clear, by, steady } = encoderOf(codec);
  const { sound: soundArgs, more } = wrapperOf(format);
  const rate = rateAsFraction(asked.rate).join('/');
  const given = givenAs(asked);
  // Values go from full range to that of video by the matrix of BT.709 (ITU-R BT.709-6, 3).
  const scale =
    'scale=in_range=full:out_range=tv:out_color_matrix=bt709:flags=bicubic+accurate_rnd+full_chroma_int';
  // Some encoders look at the frames for what the file should say, others at the arguments.
  const tags = 'setparams=range=tv:color_primaries=bt709:color_trc=bt709:colorspace=bt709';
  return [
    '-v',
    'error',
    '-nostdin',
    '-y',
    '-f',
    'rawvideo',
    '-pix_fmt',
    given,
    '-s',
    `${String(width)}x${String(height)}`,
    '-framerate',
    rate,
    '-i',
    'pipe:0',
    ...(sound ? ['-f', 'f32le', '-ar', String(SOUND_RATE), '-ac', '2', '-i', 'pipe:3'] : []),
    '-map',
    '0:v',
    ...(sound ? ['-map', '1:a'] : []),
    '-vf',
    `${scale},format=${alpha ? clear! : pixels},${tags}`,
    '-c:v',
    encoder,
    ...(bits === undefined ? by[quality] : [...steady, '-b:v', `${String(bits)}M`]),
    // Quality alone says how large a VP9 becomes where no rate is given.
    ...(codec === 'vp9' ? ['-row-mt', '1', ...(bits === undefined ? ['-b:v', '0'] : [])] : []),
    ...(codec === 'vp9' && alpha ? ['-auto-alt-ref', '0'] : []),
    ...(codec === 'hevc' ? ['-tag:v', 'hvc1', '-x265-params', 'log-level=error'] : []),
    ...(codec === 'prores' && alpha ? ['-profile:v', '4', '-alpha_bits', '16'] : []),
    '-color_range',
    'tv',
    '-colorspace',
    'bt709',
    '-color_primaries',
    'bt709',
    '-color_trc',
    'bt709',
    ...(sound ? soundArgs : []),
    // Names are no options and no addresses.
    ...more,
    '-f',
    format,
    `file:${resolve(part)}`,
  ];
}

/** Whether an engine has to leave the light of its frames. */
export const wantsLight = ({ codec, alpha }: Pick<VideoAsked, 'codec' | 'alpha'>): boolean =>
  encoderOf(codec).fine || alpha;

function givenAs(asked: VideoAsked): string {
  if (!wantsLight(asked)) return 'rgb0';
  const eight = !encoderOf(asked.codec).fine;
  return eight ? 'rgba' : asked.alpha ? 'rgba64le' : 'rgb48le';
}

/** The frame that an engine has drawn last, as its encoder is given it. */
function bytesFor(asked: VideoAsked, engine: Drawer, { width, height, pixels }: Frame) {
  if (!wantsLight(asked)) return new Uint8Array(pixels.buffer);
  const { data } = samplesOf(engine.light(width, height), encoderOf(asked.codec).fine ? 16 : 8);
  return new Uint8Array(data.buffer);
}

/** Writes, and waits for the reader; one that reads no more is told by how it ends. */
function give(to: Writable, bytes: Uint8Array): Promise<void> {
  return new Promise((done) => {
    to.write(bytes, () => {
      done();
    });
  });
}

/** The sound of the frames, second by second. */
async function giveSound({ rate, heard, first, last }: VideoAsked, to: Writable): Promise<void> {
  const count = Math.round(((last + 1 - first) / rate) * SOUND_RATE);
  for (let at = 0; at < count && !to.destroyed; at += SOUND_RATE) {
    const some = Math.min(SOUND_RATE, count - at);
    const [left, right] = mixOf(heard, first / rate + at / SOUND_RATE, some, SOUND_RATE);
    const both = Float32Array.from({ length: 2 * some }, (_, i) => (i % 2 ? right : left)[i >> 1]!);
    await give(to, new Uint8Array(both.buffer));
  }
  to.end();
}

/** A video with the piece's sound, written by ffmpeg as a child process that is fed frame by frame. */
export async function openVideo(asked: VideoAsked): Promise<Delivery> {
  const { file, heard, first, last } = asked;
  checkVideo(asked);
  await checkEncoder(encoderOf(asked.codec).encoder);
  await makeFolder(dirname(file));
  const lock = await takeLock(dirname(file), basename(file), [first, last]);
  const part = `${file}.part`;
  const child = spawn('ffmpeg', argumentsOf(asked, heard.length > 0, part), {
    stdio: ['pipe', 'ignore', 'pipe', 'pipe'],
  });
  const [frames, said, sound] = [child.stdin, child.stderr, child.stdio[3] as Writable];
  let words = '';
  (said as Readable).on('data', (more: Buffer) => (words = (words + more.toString()).slice(-4000)));
  // What it does not take any more is told by how it ends.
  for (const pipe of [frames, sound]) pipe!.on('error', () => undefined);
  const ended = once(child, 'close').then(([code]) => code as number);
  ended.catch(() => undefined);
  const sounding = heard.length > 0 ? giveSound(asked, sound) : Promise.resolve(sound.end());
  // It is waited for at the end, which does not come where frames fail.
  sounding.catch(() => undefined);
  const cancel = async (): Promise<void> => {
    child.kill('SIGKILL');
    await ended.catch(() => undefined);
    await rm(part, { force: true });
    lock.release();
  };
  const broken = async (): Promise<never> => {
    await cancel();
    const why = words.trim().split('\n').at(-1) ?? '';
    throw new Refused(`${file}: ffmpeg cannot write it: ${why || 'it gave no reason'}`);
  };
  return {
    has: () => false,
    async add(engine, drawn) {
      await give(frames!, bytesFor(asked, engine, drawn));
      if (child.exitCode !== null) await broken();
    },
    async finish() {
      // It waits for frames and for sound in turn: without their end it would not take all of the sound.
      frames!.end();
      await sounding;
      if ((await ended) !== 0) await broken();
      await rename(part, file).catch(async (error: unknown) => {
        await cancel();
        throw new Refused(`${file}: cannot be written: ${whyNot(error)}.`);
      });
      lock.release();
    },
    cancel,
  };
}
