import { catalogue, type DialSpec, type Dials, type DialValues } from '@vast-swarm/core/kinds';
import type { DialValue } from '@vast-swarm/core/feeds';
import type { Piece } from '@vast-swarm/core/piece';
import { pieceOfEveryKind } from './pieces';

/** Another value of a dial; undefined where there is none to try. */
export function turned(spec: DialSpec, value: DialValue): DialValue | undefined {
  if (spec.type === 'choice') return spec.options.find((o) => o.value !== value)?.value;
  if (spec.type === 'number' && typeof value === 'number') {
    const step = spec.whole ? 1 : Math.min(0.5, (spec.max - spec.min) / 8);
    return value + step <= spec.max ? value + step : value - step;
  }
  if (spec.type === 'vector') return [0.25, 0.5, -0.75];
  if (spec.type === 'colour') return spec.varies === 'frame' ? '#123456' : '#654321';
  return undefined;
}

export interface Place {
  specs: Dials;
  find: (piece: Piece) => DialValues | undefined;
}

/** Where the kind that a piece is about has its dials. */
function placeOf(name: string, piece: Piece): Place | null {
  const [shelf, rest] = [name.split(' ')[0]!, name.split(' ').slice(1).join(' ')];
  const kind = rest.split(',')[0]!;
  const specs = (list: readonly { kind: string; dials: Dials }[]): Dials | undefined =>
    list.find((k) => k.kind === kind)?.dials;
  const at: Record<string, [Dials | undefined, Place['find']]> = {
    emitter: [specs(catalogue.emitters), (p) => p.swarms.at(-1)!.emitter.dials],
    launch: [specs(catalogue.launches), (p) => p.swarms[0]!.launch.dials],
    force: [specs(catalogue.forces), (p) => p.forces[0]?.dials],
    collider: [specs(catalogue.colliders), (p) => p.colliders[0]?.dials],
    performer: [specs(catalogue.performers), (p) => p.performers[0]?.dials],
    medium: [specs(catalogue.media), (p) => p.media[0]?.dials],
    sound: [specs(catalogue.sounds), (p) => p.sounds[0]?.dials],
    signal: [specs(catalogue.signals), (p) => p.signals[0]?.dials],
    body: [specs(catalogue.bodies), (p) => p.swarms[0]!.bodies[0]?.dials],
    camera: [specs(catalogue.cameras), (p) => p.camera.dials],
    light: [specs(catalogue.lights), (p) => p.lights[0]?.dials],
    backdrop: [specs(catalogue.backdrops), (p) => p.backdrop.dials],
    finish: [specs(catalogue.finish), (p) => p.finish[0]?.dials],
  };
  const [found, find] = at[shelf] ?? [];
  return found && find?.(piece) ? { specs: found, find } : null;
}

/** One piece for each kind that has dials, with where they are. */
export function kindPieces(): [kind: string, piece: Piece, place: Place][] {
  const seen = new Set<string>();
  return pieceOfEveryKind().flatMap(([name, piece]) => {
    const place = placeOf(name, piece);
    const kind = name.split(',')[0]!;
    if (!place || seen.has(kind)) return [];
    seen.add(kind);
    return [[kind, piece, place] as [string, Piece, Place]];
  });
}

/** Gives other dials the values without which a dial has no meaning. */
export function bringOut(specs: Dials, dials: DialValues, key: string): void {
  const { when } = specs[key]!;
  if (!when || !('is' in when) || when.is.includes(dials[when.dial] as string)) return;
  dials[when.dial] = when.is[0]!;
  bringOut(specs, dials, when.dial);
}
