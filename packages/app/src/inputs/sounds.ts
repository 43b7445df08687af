import { wavBytes } from '@vast-swarm/core/formats';
import type { SoundTake } from '../engine/recorders/sound';
import { Microphone } from '../sound/microphone';
import type { Input } from './input';
import { keepFile, tellOfTake } from './keepTake';

/** Less that was left out is not worth telling, in seconds. */
const HARDLY = 0.02;

/** Sound from a microphone or another input of the machine; its takes are WAV files. */
export const sounds: Input<Microphone, SoundTake> = {
  open: () => new Microphone(),
  async keep(id, taken) {
    if (!taken) return;
    const { part, start, take, lost } = taken;
    const wav = { blob: new Blob([wavBytes(take)], { type: 'audio/wav' }), ending: 'wav' };
    if (!(await keepFile(id, { list: 'sounds', id: part, start }, wav)) || lost < HARDLY) return;
    const seconds = lost.toFixed(2);
    tellOfTake(
      `The picture could not keep up: ${seconds} s of what came in are not in the take. A smaller preview or fewer particles help.`,
      'note',
    );
  },
};
