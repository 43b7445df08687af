import { Scene } from '@vast-swarm/core/plan';
import { signalNames } from '@vast-swarm/core/piece';
import { framesOf } from './frames';
import { load, withStock, type WorkOptions } from './load';
import { Refused } from './refused';
import { writeWhole } from './writeWhole';

interface SignalOptions extends WorkOptions {
  frames?: [number, number];
  out: string;
}

/** Writes what every signal is at the end of each frame, as pictures show it: a column each, by its id. */
export async function signals(file: string, options: SignalOptions): Promise<void> {
  if (!options.out.endsWith('.csv'))
    throw new Refused(`${options.out}: signals are written to .csv`);
  const { piece, files } = await withStock(file, await load(file, options));
  const { rate } = piece.frame;
  const [first, last] = framesOf(piece, options.frames);
  const ids = signalNames(piece).map(({ id }) => id);
  const scene = new Scene(piece, files);
  const rows = [['frame', 'time', ...ids].join(',')];
  for (let frame = first; frame <= last; frame++) {
    const time = (frame + 1) / rate;
    rows.push([frame, time, ...ids.map((id) => scene.signal(id, time))].join(','));
  }
  await writeWhole(options.out, new TextEncoder().encode(`${rows.join('\n')}\n`));
}
