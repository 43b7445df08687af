import { samplesOf } from '@vast-swarm/core/formats';
import {
  AudioSample,
  AudioSampleSource,
  BufferTarget,
  canEncodeAudio,
  canEncodeVideo,
  Mp4OutputFormat,
  Output,
  Quality,
  VideoSample,
  VideoSampleSource,
  WebMOutputFormat,
} from 'mediabunny';
import { heardBetween } from '@vast-swarm/core/plan';
import { mixOf, type Heard } from '@vast-swarm/core/stock';
import type { Job } from './messages';
import { browserCodec, codecsOf } from '../formats/settings';
import type { Sink } from './sink';

/** Samples a second of the sound in a video. */
const RATE = 48_000;

/** Qualities by the encoder's names. */
const QUALITY = { draft: 'medium', good: 'high', best: 'very-high' } as const;

/** A video with the piece's sound. */
export async function videoSink(job: Job): Promise<Sink> {
  const { piece, files, width, height, format, first, last, codec: video, alpha } = job;
  const mp4 = format === 'mp4';
  if (mp4 && (width % 2 || height % 2)) {
    throw new Error('MP4 video needs an even width and height. Change the size, or choose WebM.');
  }
  const target = new BufferTarget();
  const output = new Output({
    format: mp4 ? new Mp4OutputFormat() : new WebMOutputFormat(),
    target,
  });
  const quality = new Quality(QUALITY[job.quality]);
  const shape = { width, height, quality };
  if (!(await canEncodeVideo(browserCodec(video), shape))) {
    const name = codecsOf(format)[video] ?? video;
    throw new Error(
      `This browser cannot write ${name} at this size. Choose another codec, or frames.`,
    );
  }
  const source = new VideoSampleSource({
    codec: browserCodec(video),
    quality,
    ...(alpha ? { alpha: 'keep' as const } : {}),
  });
  const { rate } = piece.frame;
  output.addVideoTrack(source, { frameRate: rate });
  const heard = heardBetween(piece, files, first / rate, (last + 1) / rate);
  const codec = heard.length > 0 ? await codecOf(mp4) : null;
  const sound = codec ? new SoundTrack(codec, output, heard, first / rate) : null;
  await output.start();
  const duration = 1 / rate;
  return {
    wants: { drawn: true, light: alpha },
    async add(engine, drawn) {
      const timestamp = (engine.frame - first) * duration;
      const shape = { codedWidth: width, codedHeight: height, timestamp, duration };
      const data = alpha ? samplesOf(engine.light(width, height), 8).data : drawn!.pixels;
      const sample = new VideoSample(data, { format: alpha ? 'RGBA' : 'RGBX', ...shape });
      await Promise.all([source.add(sample), sound?.until(timestamp + duration)]);
      sample.close();
    },
    async finish() {
      await output.finalize();
      return new Blob([target.buffer!], { type: mp4 ? 'video/mp4' : 'video/webm' });
    },
    cancel: () => output.cancel(),
    ...(heard.length > 0 && !codec
      ? { note: 'This browser cannot write sound: the video has none.' }
      : {}),
  };
}

/** AAC where it is offered, which more players know in MP4; Opus else; null where there is neither. */
async function codecOf(mp4: boolean): Promise<'aac' | 'opus' | null> {
  const shape = { numberOfChannels: 2, sampleRate: RATE };
  if (mp4 && (await canEncodeAudio('aac', shape))) return 'aac';
  return (await canEncodeAudio('opus', shape)) ? 'opus' : null;
}

/** The sound of a video, written as far as its frames are. */
class SoundTrack {
  private readonly source: AudioSampleSource;
  private written = 0;

  /** @param begin second of the piece at which the video begins */
  constructor(
    codec: 'aac' | 'opus',
    output: Output,
    private readonly heard: readonly Heard[],
    private readonly begin: number,
  ) {
    this.source = new AudioSampleSource({ codec, quality: new Quality('very-high') });
    output.addAudioTrack(this.source);
  }

  /** Writes up to a second of the video. */
  async until(second: number): Promise<void> {
    const count = Math.round(second * RATE) - this.written;
    if (count <= 0) return;
    const sides = mixOf(this.heard, this.begin + this.written / RATE, count, RATE);
    const data = new Float32Array(2 * count);
    sides.forEach((side, k) => {
      data.set(side, k * count);
    });
    const sample = new AudioSample({
      data,
      format: 'f32-planar',
      numberOfChannels: 2,
      sampleRate: RATE,
      timestamp: this.written / RATE,
    });
    this.written += count;
    await this.source.add(sample);
    sample.close();
  }
}
