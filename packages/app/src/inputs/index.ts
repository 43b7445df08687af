import type { RecordedList } from '@vast-swarm/core/kinds';
import type { Taken } from '../engine/recorders';
import type { LiveDevice } from '../live/liveDevice';
import type { Input } from './input';
import { performers } from './performers';
import { pictures } from './pictures';
import { sounds } from './sounds';

/** All live inputs, by the list of the parts that they drive. */
export const INPUTS = { sounds, pictures, performers } as const;

type Inputs = typeof INPUTS;

/** The devices of an open piece. */
export type LiveInputs = { [L in RecordedList]: ReturnType<Inputs[L]['open']> };

export const INPUT_LISTS = Object.keys(INPUTS) as RecordedList[];

export function openInputs(): LiveInputs {
  return Object.fromEntries(INPUT_LISTS.map((list) => [list, INPUTS[list].open()])) as LiveInputs;
}

/** A take is whole: the device sends no more, and what was recorded goes into the stock and into the piece. */
export function keepTaken(id: string, { list, take }: Taken, inputs: LiveInputs): void {
  const device: LiveDevice<unknown> = inputs[list];
  device.rest();
  const input = INPUTS[list] as unknown as Input<LiveDevice<unknown>, Taken['take']>;
  void input.keep(id, take, device);
}
