import { birthsIn, kindOf, longestLife, takesEachPlace } from '@vast-swarm/core/kinds';
import { fadesIn, inquiryOf, makePart, type Piece, type Swarm } from '@vast-swarm/core/piece';
import { rangeOf, type NumberFeed } from '@vast-swarm/core/feeds';
import type { Census } from '@vast-swarm/core/play';
import type { Notice } from '@vast-swarm/core/plan';
import { framed } from '../picture/orbit';

/** Why the count falls, and what would mend it. */
export interface Cause {
  why: string;
  button: string;
  mend: { path: (string | number)[]; value: unknown }[];
  /** It is mended by running time from its start again to the present frame. */
  again?: boolean;
}

/** The frame that is shown, and whether it is what the piece now defines for it. */
export interface Shown {
  frame: number;
  exact: boolean;
}

/** A feed with all its values multiplied. */
function times(feed: NumberFeed, k: number): NumberFeed {
  if (typeof feed === 'number') return feed * k;
  if (feed.feed === 'fixed') return { ...feed, value: feed.value * k };
  if (feed.feed === 'formula') return { ...feed, text: `(${feed.text}) * ${String(k)}` };
  return { ...feed, from: feed.from * k, to: feed.to * k };
}

/** Causes that keep particles of a swarm from being seen, the earliest first. */
export function diagnose(
  piece: Piece,
  swarm: Swarm,
  census: Census,
  { frame, exact }: Shown,
  notices: readonly Notice[],
): Cause[] {
  const at = piece.swarms.findIndex((s) => s.id === swarm.id);
  const dial = (key: string): (string | number)[] => ['swarms', at, 'dials', key];
  const causes: Cause[] = [];
  const add = (why: string, button = '', mend: Cause['mend'] = []): void => {
    causes.push({ why, button, mend });
  };
  if (!swarm.on) {
    add(`${swarm.name} is switched off.`, 'Switch it on', [
      { path: ['swarms', at, 'on'], value: true },
    ]);
    return causes;
  }
  if (!swarm.bodies.some((b) => b.on)) {
    add(`${swarm.name} has no body that is shown, so nothing is drawn.`, 'Give it a disc', [
      {
        path: ['swarms', at, 'bodies'],
        value: [...swarm.bodies, makePart('bodies', 'disc', swarm.bodies)],
      },
    ]);
  }
  const { lifetime } = swarm.dials;
  const { rate, burst } = birthsIn(swarm.dials);
  const [start, limit] = [swarm.dials.start, swarm.dials.limit];
  const now = frame / piece.frame.rate;
  for (const { message, enough } of noticesOf(swarm, notices)) {
    if (enough === undefined) add(message);
    else {
      add(message, `Raise the limit to ${String(enough)}`, [
        { path: dial('limit'), value: enough },
      ]);
    }
  }
  if (!exact && census.alive === 0) {
    const what = census.born === 0 ? 'None are born' : 'None are left';
    causes.push({
      why: `${what} in this run, which began before the last change; what the piece now says is seen when time starts again.`,
      button: 'Start again up to here',
      mend: [],
      again: true,
    });
    return causes;
  }
  if (census.born === 0) {
    if (takesEachPlace(swarm.dials) && start <= now) {
      const empty = emptyPlace(piece, swarm);
      if (empty) add(empty);
      else {
        add('Its emitter has no places to give.', 'A burst of 1000 at 0 s', [
          { path: dial('when'), value: 'bursts' },
          { path: dial('burst'), value: 1000 },
          { path: dial('burstAt'), value: 0 },
        ]);
      }
    } else if (rate === 0 && burst === 0 && !takesEachPlace(swarm.dials)) {
      add('Nothing is born: rate and burst are 0.', 'Set a rate of 2000 /s', [
        { path: dial('when'), value: 'steadily' },
        { path: dial('rate'), value: 2000 },
      ]);
    } else if (start > now) {
      add(`Births begin at ${String(start)} s; this is ${now.toFixed(1)} s.`, 'Begin at 0 s', [
        { path: dial('start'), value: 0 },
      ]);
    } else if (rate === 0 && swarm.dials.burstAt > now) {
      const at = String(swarm.dials.burstAt);
      add(`Its burst comes at ${at} s; this is ${now.toFixed(1)} s.`, 'Burst at 0 s', [
        { path: dial('burstAt'), value: 0 },
      ]);
    } else add('Nothing is born up to this frame.');
    return causes;
  }
  if (census.alive === 0) {
    const empty = emptyPlace(piece, swarm);
    const longest = longestLife(swarm.dials);
    if (empty) add(empty);
    else {
      add(`All have died: the longest lives ${String(longest)} s.`, 'Live twice as long', [
        { path: dial('lifetime'), value: times(lifetime, 2) },
      ]);
    }
    return causes;
  }
  if (census.inFrame < census.alive * 0.05) {
    add(
      `Only ${String(census.inFrame)} of ${String(census.alive)} are inside the camera's view.`,
      'Turn the camera to the emitter',
      [{ path: ['camera'], value: framed(piece.camera, centreOf(swarm), 2) }],
    );
  }
  if (census.largeEnough < census.inFrame * 0.5) {
    add('Most are smaller than half a pixel.', 'Four times the size', [
      { path: dial('size'), value: times(swarm.dials.size, 4) },
    ]);
  }
  if (census.brightEnough < census.largeEnough * 0.5) {
    const opacity = rangeOf(swarm.dials.opacity)[1];
    if (swarm.dials.lasts === 'ever' && fadesIn(swarm.dials.opacity)) {
      add('They live for ever, and at the beginning of life they are transparent.', 'No fading', [
        { path: dial('opacity'), value: opacity },
      ]);
    } else if (opacity < 0.02) {
      add('They are nearly transparent.', 'Set the opacity to 0.8', [
        { path: dial('opacity'), value: 0.8 },
      ]);
    } else {
      add('Most are darker than one step of the picture.', 'Eight times the light', [
        { path: dial('light'), value: times(swarm.dials.light, 8) },
      ]);
    }
  }
  if (causes.length === 0 && limit > 0 && census.alive >= limit) {
    add(`The limit of ${String(limit)} holds the count down.`, 'Lift the limit', [
      { path: dial('limit'), value: 0 },
    ]);
  }
  return causes;
}

function noticesOf(swarm: Swarm, notices: readonly Notice[]): Notice[] {
  const stock = new Set(
    Object.values(swarm.emitter.dials).filter((v): v is string => typeof v === 'string'),
  );
  return notices.filter((n) => n.part === swarm.id || stock.has(n.part));
}

/** Why its kind of emitter has no births; null where it has. */
function emptyPlace(piece: Piece, { emitter }: Swarm): string | null {
  const { whyNoBirths } = kindOf('emitters', emitter.kind);
  return whyNoBirths?.(emitter.dials, inquiryOf(piece)) ?? null;
}

function centreOf(swarm: Swarm): [number, number, number] {
  const centre = swarm.emitter.dials.centre as unknown[];
  return centre.map((c) => (typeof c === 'number' ? c : 0)) as [number, number, number];
}
