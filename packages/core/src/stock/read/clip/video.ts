import {
  ALL_FORMATS,
  BufferSource,
  EncodedPacketSink,
  Input,
  VideoSampleSink,
  type InputVideoTrack,
} from 'mediabunny';
import { StockError } from '../error';
import { checkPictureSize } from '../pictureSize';
import { inOrder, type DecodeFrom } from './inOrder';
import type { OpenClip } from './opened';
import { codingOf, pictureOfPlanes, turned } from './planes';
import { planesOf } from './sample';

/** The file of a video, as a decoder gets it. */
export interface VideoFile {
  name: string;
  bytes: Uint8Array;
  track: InputVideoTrack;
  /** Seconds at which its pictures begin, as the file has them. */
  times: readonly number[];
}

let outside: ((file: VideoFile) => DecodeFrom) | null = null;

/** Decodes video by something else than WebCodecs, as on the command line, where there is none. */
export function decodeVideoBy(decoder: (file: VideoFile) => DecodeFrom): void {
  outside = decoder;
}

/**
 * MP4 and WebM. Decoders only give planes; what they are as light is our own arithmetic, so that a picture has the
 * same values everywhere.
 */
export async function openVideo(name: string, bytes: Uint8Array): Promise<OpenClip> {
  const input = new Input({ formats: ALL_FORMATS, source: new BufferSource(bytes) });
  const track = await input.getPrimaryVideoTrack();
  if (!track) throw new StockError(name, 'there is no picture in it');
  const codec = await track.getCodec();
  const [wide, high] = [await track.getCodedWidth(), await track.getCodedHeight()];
  checkPictureSize(name, wide, high);
  const { starts, end } = await timesIn(track);
  if (starts.length === 0) throw new StockError(name, 'there is no picture in it');
  const decodes = outside ?? webCodecs;
  if (!outside && (typeof VideoDecoder === 'undefined' || !(await track.canDecode()))) {
    const what = codec ? codec.toUpperCase() : 'of a kind that is not known';
    throw new StockError(
      name,
      `its pictures are ${what}, which this browser cannot decode; bring it as H.264, VP9 or AV1`,
    );
  }
  const coding = codingOf(await track.getColorSpace(), high);
  const rotation = await track.getRotation();
  const decode = inOrder(decodes({ name, bytes, track, times: starts }), starts.length);
  const upright = rotation % 180 === 0;
  return {
    width: upright ? wide : high,
    height: upright ? high : wide,
    times: Float64Array.from([...starts, end], (t) => t - starts[0]!),
    picture: async (index) => turned(pictureOfPlanes(await decode(index), coding), rotation),
  };
}

/** When the pictures of a track begin, and the last one ends; of a file that is cut short, of what is there. */
async function timesIn(track: InputVideoTrack): Promise<{ starts: number[]; end: number }> {
  const starts: number[] = [];
  let end = 0;
  try {
    const packets = new EncodedPacketSink(track).packets(undefined, undefined, {
      metadataOnly: true,
    });
    for await (const { timestamp, duration } of packets) {
      starts.push(timestamp);
      end = Math.max(end, timestamp + duration);
    }
  } catch (error) {
    if (starts.length === 0) throw error;
  }
  starts.sort((a, b) => a - b);
  const [last, before] = [starts.at(-1) ?? 0, starts.at(-2) ?? 0];
  return { starts, end: end > last ? end : last + (last - before || 1 / 30) };
}

/** By WebCodecs, as browsers have them. */
function webCodecs({ name, track, times }: VideoFile): DecodeFrom {
  const sink = new VideoSampleSink(track);
  return async function* (index) {
    // One is looked at while the next is on its way.
    const room = [0, 1, 2].map(() => new Uint8Array(0));
    for await (const sample of sink.samples(times[index]! + 1e-6)) {
      try {
        const bytes = sample.allocationSize();
        const free = room.shift()!;
        room.push(free.length === bytes ? free : new Uint8Array(bytes));
        yield await planesOf(name, sample, room[2]!);
      } finally {
        sample.close();
      }
    }
  };
}
