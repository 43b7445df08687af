import {
  ALL_FORMATS,
  AudioSampleSink,
  BufferSource,
  BufferTarget,
  EncodedAudioPacketSource,
  EncodedPacketSink,
  FLAC,
  Input,
  MP3,
  OGG,
  OggOutputFormat,
  Output,
  type EncodedPacket,
  type InputAudioTrack,
} from 'mediabunny';
import type { Sound } from '../types';
import { StockError } from './error';
import { Samples } from './samples';

type Progress = (part: number) => void;

/** Packets that are decoded at once. */
const TOGETHER = 64;

/** A decoder of packets: the browser's, or one that is loaded. */
interface Decoder {
  ready: Promise<void>;
  free: () => void;
  decodeFrames: (packets: Uint8Array[]) => Decoded | Promise<Decoded>;
}

interface Decoded {
  channelData: Float32Array[];
  sampleRate: number;
}

/**
 * Reads a sound: WAV, FLAC, Ogg (Vorbis or Opus), MP3, and what of these MP4, WebM and others carry. What a file
 * holds tells, not its ending. Decoders are WebAssembly or plain arithmetic, never those of the browser, so that
 * samples are the same everywhere. Of a file that is cut short, what is there is taken.
 *
 * @throws StockError that says what is wrong
 */
export async function soundOf(name: string, bytes: Uint8Array, progress: Progress): Promise<Sound> {
  const input = new Input({ formats: ALL_FORMATS, source: new BufferSource(bytes) });
  try {
    return await decoded(name, bytes, input, progress);
  } catch (error) {
    if (error instanceof StockError) throw error;
    const why = error instanceof Error ? error.message : String(error);
    throw new StockError(name, `no sound can be read from it (${why.replace(/\.$/, '')})`);
  } finally {
    input.dispose();
  }
}

/** Whether a file has a sound: none, one beside pictures, or nothing else. */
export async function soundIn(bytes: Uint8Array): Promise<'none' | 'beside' | 'only'> {
  const input = new Input({ formats: ALL_FORMATS, source: new BufferSource(bytes) });
  try {
    if (!(await input.getPrimaryVideoTrack())) return 'only';
    return (await input.getPrimaryAudioTrack()) ? 'beside' : 'none';
  } catch {
    // What is wrong with it is told by who reads it.
    return 'none';
  } finally {
    input.dispose();
  }
}

async function decoded(
  name: string,
  bytes: Uint8Array,
  input: Input,
  progress: Progress,
): Promise<Sound> {
  const format = await input.getFormat();
  const track = await input.getPrimaryAudioTrack();
  if (!track) throw new StockError(name, 'there is no sound in it');
  const codec = await track.getCodec();
  const samples = new Samples(name);
  if (codec === 'mp3' && format === MP3) {
    const { MPEGDecoder } = await import('mpg123-decoder');
    await whole(new MPEGDecoder({ enableGapless: true }), (d) => d.decode(bytes), samples);
  } else if (codec === 'vorbis') {
    const file = format === OGG ? bytes : await asOgg(track);
    const { OggVorbisDecoder } = await import('@wasm-audio-decoders/ogg-vorbis');
    await whole(new OggVorbisDecoder(), (d) => d.decodeFile(file), samples);
  } else if (codec === 'flac' && format === FLAC) {
    const { FLACDecoder } = await import('@wasm-audio-decoders/flac');
    await whole(new FLACDecoder(), (d) => d.decodeFile(bytes), samples);
  } else if (codec?.startsWith('pcm') || codec === 'ulaw' || codec === 'alaw') {
    await plain(track, samples, progress);
  } else {
    await packets(track, await decoderOf(name, track), samples, progress);
  }
  return samples.sound();
}

/** A file that its decoder takes as a whole. */
async function whole<D extends { ready: Promise<void>; free: () => void }>(
  decoder: D,
  decode: (decoder: D) => Decoded | Promise<Decoded>,
  samples: Samples,
): Promise<void> {
  await decoder.ready;
  const { channelData, sampleRate } = await decode(decoder);
  samples.push(channelData, sampleRate);
  decoder.free();
}

/** The packets of a track in an Ogg file, as the decoder of Vorbis wants them. */
async function asOgg(track: InputAudioTrack): Promise<Uint8Array> {
  const output = new Output({ format: new OggOutputFormat(), target: new BufferTarget() });
  const source = new EncodedAudioPacketSource('vorbis');
  output.addAudioTrack(source);
  await output.start();
  const decoderConfig = (await track.getDecoderConfig())!;
  for await (const packet of packetsOf(track)) {
    await source.add(packet, { decoderConfig });
  }
  await output.finalize();
  return new Uint8Array(output.target.buffer!);
}

/** Numbers as they are: no decoder is wanted. */
async function plain(track: InputAudioTrack, samples: Samples, progress: Progress): Promise<void> {
  const duration = await track.getDurationFromMetadata();
  for await (const part of new AudioSampleSink(track).samples()) {
    const { numberOfFrames, numberOfChannels, sampleRate, timestamp } = part;
    const channels = Array.from({ length: numberOfChannels }, (_, planeIndex) => {
      const to = new Float32Array(numberOfFrames);
      part.copyTo(to, { planeIndex, format: 'f32-planar' });
      return to;
    });
    part.close();
    samples.push(channels, sampleRate);
    if (duration) progress(Math.min(1, timestamp / duration));
  }
}

/** The decoder of a track's packets. */
async function decoderOf(name: string, track: InputAudioTrack): Promise<Decoder> {
  const codec = await track.getCodec();
  switch (codec) {
    case 'opus': {
      const { OpusDecoder } = await import('opus-decoder');
      return new OpusDecoder(opusOptions((await track.getDecoderConfig())?.description));
    }
    case 'flac':
      return new (await import('@wasm-audio-decoders/flac')).FLACDecoder();
    case 'mp3':
      return new (await import('mpg123-decoder')).MPEGDecoder();
    default: {
      const what = codec ? `its sound is ${codec.toUpperCase()}` : 'what its sound is is not known';
      const wanted = 'which no decoder here gives the same samples for everywhere';
      throw new StockError(name, `${what}, ${wanted}; bring it as WAV, FLAC, Opus or MP3`);
    }
  }
}

/** Options in a track's identification header (RFC 7845, section 5.1), where there is one. */
function opusOptions(header: ArrayBufferView | ArrayBufferLike | undefined): object {
  if (!header) return {};
  const view = ArrayBuffer.isView(header)
    ? new DataView(header.buffer, header.byteOffset, header.byteLength)
    : new DataView(header);
  const [channels, preSkip] = [view.getUint8(9), view.getUint16(10, true)];
  if (view.getUint8(18) === 0) return { channels, preSkip };
  return {
    channels,
    preSkip,
    streamCount: view.getUint8(19),
    coupledStreamCount: view.getUint8(20),
    channelMappingTable: Array.from({ length: channels }, (_, i) => view.getUint8(21 + i)),
  };
}

/** Decodes packet by packet. What stands before the track's beginning, and behind its end, is left out. */
async function packets(
  track: InputAudioTrack,
  decoder: Decoder,
  samples: Samples,
  progress: Progress,
): Promise<void> {
  const duration = await track.getDurationFromMetadata();
  await decoder.ready;
  let waiting: Uint8Array[] = [];
  const decode = async (): Promise<void> => {
    const { channelData, sampleRate } = await decoder.decodeFrames(waiting);
    waiting = [];
    samples.push(channelData, sampleRate);
  };
  let before = 0;
  for await (const packet of packetsOf(track)) {
    before = Math.max(before, -packet.timestamp);
    waiting.push(packet.data);
    if (waiting.length < TOGETHER) continue;
    await decode();
    if (duration) progress(Math.min(1, packet.timestamp / duration));
  }
  if (waiting.length > 0) await decode();
  decoder.free();
  // The decoder of Opus leaves out what comes before by itself.
  const skipped = (await track.getCodec()) === 'opus' ? 0 : before;
  samples.keep(skipped, await track.computeDuration().catch(() => Infinity));
}

/** The packets of a track; where the file is cut short in the middle, those before. */
async function* packetsOf(track: InputAudioTrack): AsyncGenerator<EncodedPacket> {
  let any = false;
  try {
    for await (const packet of new EncodedPacketSink(track).packets()) {
      yield packet;
      any = true;
    }
  } catch (error) {
    if (!any) throw error;
  }
}
