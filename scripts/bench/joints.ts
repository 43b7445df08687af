import { createSocket } from 'node:dgram';
import { dateToTimetag, toBuffer } from 'osc-min';
import { WebSocket } from 'ws';
import { Arrivals, LiveMotion, made, placesAt, type Motion } from '@vast-swarm/core/stock';
import { kindOf } from '@vast-swarm/core/kinds';
import { makePart } from '@vast-swarm/core/piece';
import type { DoorNews } from '@vast-swarm/core/formats';
import { jointTrack } from '@vast-swarm/core/language/jointTrack';
import { best, report } from './report';
import { startServer } from './server';

/** What live performers cost a frame, and how long their joints are on their way. */

const WANTED = { frame: 1, frames: 2 };
const RATE = 60;
const motion = made('pierDancers') as Motion;
const cast = motion.performers.map(({ name, joints }) => ({ name, joints }));

/** Messages of both dancers as the server passes them on. */
const messages = Array.from({ length: 16 * RATE }, (_, k) =>
  motion.performers.map((performer) => {
    const places = new Float32Array(3 * performer.joints.length);
    placesAt(motion, performer, k / RATE, places);
    return JSON.stringify({ pose: performer.name, time: k / RATE, places: [...places] });
  }),
);

/** Milliseconds a frame: read, put in order, shown, recorded, made a track of. */
function costOfFrame(): number {
  const arrivals = cast.map(() => new Arrivals());
  const first = Float32Array.from(motion.performers.flatMap((p) => [...p.places.subarray(0, 54)]));
  const live = new LiveMotion(cast, first, 30, 0);
  const { dials } = makePart('performers', 'live', []);
  const track = jointTrack(
    kindOf('performers', 'live').performing(dials, { rate: 30, stock: () => undefined, live })!,
    30,
  );
  let frame = 0;
  const frames = 400;
  return (
    best(5, () => {
      for (let n = 0; n < frames; n++, frame++) {
        for (const k of [2 * frame, 2 * frame + 1]) {
          messages[k % messages.length]!.forEach((message, who) => {
            const { places } = JSON.parse(message) as { places: number[] };
            arrivals[who]!.take(k / RATE, k / RATE + 0.01, Float32Array.from(places));
          });
        }
        const pose = arrivals.flatMap((a) => [...a.at(frame / 30 + 0.05)!]);
        live.append(Float32Array.from(pose));
        void track.read(frame);
      }
    }) / frames
  );
}
report('live joints of two performers at 60 a second', costOfFrame(), 'ms a frame', WANTED.frame);

const clock = (): number => performance.now() / 1000;
const pause = (seconds: number): Promise<void> =>
  new Promise((resolve) => setTimeout(resolve, 1000 * seconds));

/**
 * From a message at the server's door to the first frame that has something of it, and to the first that has all, drawn
 * within the frame's time, in frames of a piece.
 */
async function delay(fps: number): Promise<[first: number, whole: number]> {
  const { host, udp, child } = await startServer();
  const arrivals = new Arrivals();
  const page = new WebSocket(`ws://${host}/joints/watch`);
  page.on('message', (data: Buffer) => {
    const news = JSON.parse(data.toString()) as DoorNews;
    if ('pose' in news) arrivals.take(news.time, clock(), Float32Array.from(news.places));
  });
  await new Promise((resolve) => page.once('open', resolve));
  const socket = createSocket('udp4');
  let [x, sent] = [0, 0];
  const beat = setInterval(() => {
    const timetag = dateToTimetag(new Date());
    const elements = [{ address: '/performer/Ada/joint/head', args: [x, 0, 0].map(float) }];
    const { buffer, byteOffset, byteLength } = toBuffer({ timetag, elements });
    socket.send(new Uint8Array(buffer, byteOffset, byteLength), udp, '127.0.0.1');
    if (sent === 0) sent = clock();
  }, 1000 / RATE);
  await pause(1.5);
  let [first, whole] = [0, 0];
  const tries = 30;
  const away = (from: number): number => Math.abs((arrivals.at(clock())?.[0] ?? 0) - from);
  for (let n = 0; n < tries; n++) {
    await pause(0.2 + 0.013 * n);
    [x, sent] = [1 - x, 0];
    let begun = 0;
    for (;;) {
      await pause(1 / fps);
      const left = away(x);
      if (left < 0.99 && begun === 0) begun = clock();
      if (left < 0.01) break;
    }
    first += (begun - sent) * fps + 1;
    whole += (clock() - sent) * fps + 1;
  }
  clearInterval(beat);
  socket.close();
  page.close();
  child.kill();
  return [first / tries, whole / tries];
}

const float = (value: number) => ({ type: 'float' as const, value });
for (const fps of [30, 60]) {
  const [first, whole] = await delay(fps);
  const name = `from joints at the door to a frame that`;
  report(`${name} has something of them, ${String(fps)} a second`, first, 'frames', WANTED.frames);
  report(`${name} has all of them, ${String(fps)} a second`, whole, 'frames');
}
process.exit(0);
