import { codingOf, type Coding, type Picture } from '@vast-swarm/core/stock';
import { pictureOfSample } from '@vast-swarm/core/stock/read/clip/sample';

/** Frames from one that can be decoded by itself to the next. */
const KEY_EVERY = 60;
/** Bits a second: what is looked for in it is not to be hidden by coding. */
const BITRATE = 4_000_000;
/** Milliseconds in which a picture is coded and decoded again. */
const PATIENCE = 3000;

const CODECS = ['vp09.00.30.08', 'vp8'] as const;

/** Codes pictures one by one, and decodes each at once: what drives the piece is what the take has. */
export class Coder {
  private readonly chunks: EncodedVideoChunk[] = [];
  private decoderConfig: VideoDecoderConfig | null = null;
  private coding: Coding | null = null;
  private readonly encoder: VideoEncoder;
  private readonly decoder: VideoDecoder;
  private count = 0;
  bytes = 0;
  private done: { resolve: (picture: Picture) => void; reject: (error: Error) => void } | null =
    null;

  constructor(
    readonly codec: (typeof CODECS)[number],
    config: VideoEncoderConfig,
  ) {
    const error = (reason: Error): void => this.done?.reject(reason);
    this.decoder = new VideoDecoder({ output: (frame) => void this.decoded(frame), error });
    this.encoder = new VideoEncoder({
      output: (chunk, { decoderConfig } = {}) => {
        this.coded(chunk, decoderConfig, config.height);
      },
      error,
    });
    this.encoder.configure(config);
  }

  private coded(
    chunk: EncodedVideoChunk,
    config: VideoDecoderConfig | undefined,
    height: number,
  ): void {
    if (config && !this.decoderConfig) {
      this.decoderConfig = config;
      this.coding = codingOf(config.colorSpace ?? {}, height);
      this.decoder.configure({ ...config, optimizeForLatency: true });
    }
    this.chunks.push(chunk);
    this.bytes += chunk.byteLength;
    this.decoder.decode(chunk);
  }

  private async decoded(frame: VideoFrame): Promise<void> {
    try {
      this.done?.resolve(await pictureOfSample('The camera', frame, this.coding!));
    } catch (error) {
      this.done?.reject(error as Error);
    } finally {
      frame.close();
    }
  }

  /** A picture as it is decoded again. */
  async code(bitmap: ImageBitmap): Promise<Picture> {
    const frame = new VideoFrame(bitmap, { timestamp: this.count * 1000 });
    const decoded = new Promise<Picture>((resolve, reject) => (this.done = { resolve, reject }));
    this.encoder.encode(frame, { keyFrame: this.count % KEY_EVERY === 0 });
    frame.close();
    this.count += 1;
    const timer = setTimeout(() => {
      this.done?.reject(new Error('they are held back by the decoder of this browser'));
    }, PATIENCE);
    return decoded.finally(() => {
      clearTimeout(timer);
    });
  }

  /** The first pictures as a file, each from its frame on. */
  async file(begins: readonly number[], rate: number): Promise<Uint8Array<ArrayBuffer>> {
    // What writes files comes when there is one.
    const { BufferTarget, EncodedPacket, EncodedVideoPacketSource, Output, WebMOutputFormat } =
      await import('mediabunny');
    const target = new BufferTarget();
    const output = new Output({ format: new WebMOutputFormat(), target });
    const source = new EncodedVideoPacketSource(this.codec === 'vp8' ? 'vp8' : 'vp9');
    output.addVideoTrack(source);
    await output.start();
    for (const [i, begin] of begins.entries()) {
      const next = begins[i + 1] ?? begin + 1;
      const packet = EncodedPacket.fromEncodedChunk(this.chunks[i]!).clone({
        timestamp: begin / rate,
        duration: (next - begin) / rate,
      });
      await source.add(packet, i === 0 ? { decoderConfig: this.decoderConfig! } : undefined);
    }
    await output.finalize();
    return new Uint8Array(target.buffer!);
  }

  close(): void {
    if (this.encoder.state !== 'closed') this.encoder.close();
    if (this.decoder.state !== 'closed') this.decoder.close();
  }
}

export async function coderFor(width: number, height: number): Promise<Coder> {
  for (const codec of CODECS) {
    const config: VideoEncoderConfig = {
      codec,
      width,
      height,
      bitrate: BITRATE,
      framerate: 30,
      latencyMode: 'realtime',
    };
    const { supported } = await VideoEncoder.isConfigSupported(config);
    if (supported) return new Coder(codec, config);
  }
  throw new Error('This browser cannot write video, so that nothing can be recorded.');
}
