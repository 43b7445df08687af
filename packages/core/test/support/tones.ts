import { makePart, makePiece, type Piece } from '@vast-swarm/core/piece';
import { Scene } from '@vast-swarm/core/plan';
import type { DialValues } from '@vast-swarm/core/kinds';
import type { Sound } from '@vast-swarm/core/stock';

/** Sounds and signals that are worked out here, to hold those of the product to. */

/** One channel from a function of the time in seconds. */
export function soundOf(seconds: number, at: (time: number) => number, rate = 48_000): Sound {
  const samples = Int16Array.from({ length: Math.round(seconds * rate) }, (_, i) =>
    Math.round(32767 * at(i / rate)),
  );
  return { type: 'sound', rate, channels: [samples] };
}

export const sine =
  (frequency: number, size = 1) =>
  (time: number): number =>
    size * Math.sin(2 * Math.PI * frequency * time);

const HASH = 'aaaaaaaaaaaaaaaa';

type Parts = [kind: string, id: string, dials?: DialValues][];

/** A piece with signals, and with a sound of the id `heard` where one is given. */
export function piece(signals: Parts, played: DialValues = {}, rate = 30, preroll = 0): Piece {
  const made = makePiece('Signals');
  Object.assign(made.frame, { rate, preroll });
  made.stock.push({
    id: 'file',
    name: 'File',
    type: 'sound',
    source: { file: 'a.wav', hash: HASH },
  });
  const sound = { ...makePart('sounds', 'played', []), id: 'heard' };
  Object.assign(sound.dials, { sound: 'file' }, played);
  made.sounds.push(sound);
  made.signals = signals.map(([kind, id, dials]) => {
    const part = { ...makePart('signals', kind, []), id, name: id };
    if ('sound' in part.dials) part.dials.sound = 'heard';
    Object.assign(part.dials, dials);
    return part;
  });
  return made;
}

/** Its signals as functions of the time. */
export function scene(made: Piece, sound?: Sound): Scene {
  return new Scene(made, new Map(sound ? [[HASH, sound]] : []));
}
