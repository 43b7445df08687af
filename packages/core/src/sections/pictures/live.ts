import { stockDial } from '../../language/dials';
import { serialOf } from '../../stock/memo';
import { movingClip } from '../../stock/clip/movingClip';
import { nothingSeen } from '../../stock/clip/livePictures';
import { beginsAt } from '../beginsAt';
import { movingPicture } from '../define';

export const live = movingPicture({
  kind: 'live',
  title: 'Live camera',
  help: 'A live camera, recorded as a take while it drives the piece.',
  icon: 'M3 7h12v10H3zM15 11l6-3v8l-6-3M6 10h3',
  dials: {
    take: stockDial('Take', ['clip'], 'The recording that counts: it stands in for what is live.'),
    start: beginsAt('Frame at which the take begins.'),
  },
  plays: 'take',
  strip: { start: 'start' },
  records: { take: 'take', start: 'start' },
  moving({ take, start }, { rate, stock, live }) {
    if (live) return live.moving();
    const data = stock(take);
    if (data?.type !== 'clip') return undefined;
    const whole = { speed: 1, from: 0, to: 0, ends: 'hold', mixes: false } as const;
    const name = `take.${String(serialOf(data))}.${JSON.stringify([rate, start])}`;
    const clip = movingClip(data, name, rate, { start: start / rate, ...whole });
    const none = nothingSeen(clip.width, clip.height);
    // Before it there is nothing, as there was when it was recorded.
    return {
      ...clip,
      stateAt: (frame) => (frame < start ? 0 : 1 + clip.stateAt(frame)),
      at: (state) => (state === 0 ? none : clip.at(state - 1)),
    };
  },
});
