import { mediumGivers, type Notice } from '@vast-swarm/core/plan';
import type { MediumCensus } from '@vast-swarm/core/play';
import type { Part, Piece } from '@vast-swarm/core/piece';
import type { Cause } from './diagnose';

/** Causes that keep a medium from being seen, or from moving. */
export function diagnoseMedium(
  piece: Piece,
  medium: Part,
  census: MediumCensus,
  notices: readonly Notice[] = [],
): Cause[] {
  const at = piece.media.findIndex((m) => m.id === medium.id);
  const dial = (key: string): (string | number)[] => ['media', at, 'dials', key];
  const causes: Cause[] = [];
  const add = (why: string, button = '', mend: Cause['mend'] = []): void => {
    causes.push({ why, button, mend });
  };
  const { dials, name } = medium;
  if (!medium.on) {
    add(`${name} is switched off.`, 'Switch it on', [{ path: ['media', at, 'on'], value: true }]);
    return causes;
  }
  for (const { part, message } of notices) if (part === medium.id) add(message);
  const givers = mediumGivers(piece, medium);
  const lit = dials.tint !== 0 && givers.length > 0;
  if (census.lit === 0 && !lit && dials.picture === '' && dials.hand === 0) {
    if (givers.length === 0) add('No swarm gives it anything, no picture and no hand does.');
    else add('Swarms stir it and give it no light.', 'Tint it', [{ path: dial('tint'), value: 2 }]);
  } else if (census.lit === 0 && census.filled === 0) {
    add('Nothing has come into it so far: what stirs it is elsewhere, or beyond its reach.');
  } else if (census.lit === 0 && dials.by === 'light') {
    add('There is some of it, and none of it is lit.', 'Show it by its amount', [
      { path: dial('by'), value: 'amount' },
    ]);
  }
  if (census.moving === 0) add('It stands still: nothing pushes it.');
  if (dials.shown === 'no') {
    add('It is not shown in the scene.', 'Show it behind the swarms', [
      { path: dial('shown'), value: 'behind' },
    ]);
  } else if (dials.light === 0) {
    add('What is seen of it is multiplied by 0.', 'Set its light to 1', [
      { path: dial('light'), value: 1 },
    ]);
  }
  return causes;
}
