import { heardIn, Scene, type LiveInput, type Plan } from '@vast-swarm/core/plan';
import {
  heardPeaks,
  placeIn,
  secondsOf,
  spectrumOf,
  stockData,
  tempoOf,
  type Heard,
  type Peaks,
  type Sound,
  type StockData,
  type StockFiles,
  type Tempo,
} from '@vast-swarm/core/stock';
import type { Follow } from '@vast-swarm/core/kinds';
import type { Piece } from '@vast-swarm/core/piece';

/** The open piece, as far as it is known. */
interface Known {
  /** The piece as it is by now, whether it is compiled or not. */
  piece: Piece | null;
  /** The plan, where it is that of the piece. */
  plan: Plan | null;
  files: StockFiles;
  live: ReadonlyMap<string, LiveInput>;
}

/** A sound as it stands in the piece, without its samples; `whole` is how long it is itself. */
export interface SoundExtent extends Omit<Heard, 'sound' | 'gain'> {
  whole: number;
}

/** Answers of the engine's worker on sounds and signals of the piece. */
export class Hearing {
  constructor(private readonly known: () => Known) {}

  private stock(id: string): StockData | undefined {
    const { piece, files } = this.known();
    const entry = piece?.stock.find((s) => s.id === id);
    return entry && stockData(entry, files);
  }

  /** A sound of the piece as it is heard; null where nothing is. */
  private heard(id: string): Heard | null {
    const { piece, live } = this.known();
    return piece && heardIn(piece, id, (name) => this.stock(name), live.get(id));
  }

  private signal(id: string): Follow {
    const { piece, plan, files, live } = this.known();
    const numbers = plan?.tracks.numbers ?? (piece && new Scene(piece, files, live).signals);
    return numbers?.get(id) ?? (() => 0);
  }

  /** A sound of the piece's stock; null where it is not at hand. */
  sound(id: string): Sound | null {
    const data = this.stock(id);
    return data?.type === 'sound' ? data : null;
  }

  /** Where a sound of the piece begins and ends, in seconds; null where there is none. */
  extent(id: string): SoundExtent | null {
    const heard = this.heard(id);
    if (!heard) return null;
    const { sound, start, from, to, fadeIn, fadeOut, repeats } = heard;
    return { whole: secondsOf(sound), start, from, to, fadeIn, fadeOut, repeats };
  }

  /** The peaks of a sound between two seconds of the piece, in so many stretches; null where there is none. */
  peaks(id: string, from: number, to: number, count: number): Peaks | null {
    const heard = this.heard(id);
    return heard && heardPeaks(heard, from, to, count);
  }

  /** How loud a sound is by frequency at a second of the piece, see spectrumOf; null where it is silent. */
  spectrum(
    id: string,
    time: number,
    [low, high]: [number, number],
    count: number,
  ): Float32Array | null {
    const heard = this.heard(id);
    const place = heard && placeIn(heard, time);
    return place && spectrumOf(heard.sound, place.at, low, high, count);
  }

  /** The tempo of a sound, and its first beat in seconds of the piece; null where none is found. */
  tempo(id: string): Tempo | null {
    const heard = this.heard(id);
    const found = heard && tempoOf(heard.sound);
    if (!found) return null;
    const first = heard.start + found.first - heard.from;
    // What is left out at its beginning does not bring the first beat before the sound.
    const beat = 60 / found.tempo;
    const late = Math.max(0, Math.ceil((heard.start - first) / beat - 1e-9));
    return { tempo: found.tempo, first: first + late * beat };
  }

  /** A signal at so many even times, from the piece's beginning to a second. */
  curve(id: string, seconds: number, count: number): Float32Array {
    const at = this.signal(id);
    return Float32Array.from({ length: count }, (_, i) => at((seconds * i) / (count - 1)));
  }

  /** When a signal fires between two seconds; none where it is not one that does. */
  fired(id: string, from: number, to: number): number[] {
    return this.signal(id).fired?.(from, to) ?? [];
  }
}
