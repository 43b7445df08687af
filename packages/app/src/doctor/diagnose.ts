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

/** A swarm of a piece, the counts of its particles, and the list of causes that grows. */
interface Case {
  piece: Piece;
  swarm: Swarm;
  census: Census;
  /** Seconds. */
  now: number;
  /** Adds a cause, with a button and the changes that it makes. */
  add: (why: string, button?: string, mend?: Cause['mend']) => void;
  /** The change that gives a dial of the swarm a value. */
  set: (key: string, value: unknown) => Cause['mend'][number];
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
  const causes: Cause[] = [];
  const add: Case['add'] = (why, button = '', mend = []) => {
    causes.push({ why, button, mend });
  };
  const set: Case['set'] = (key, value) => ({ path: ['swarms', at, 'dials', key], value });
  const now = frame / piece.frame.rate;
  const seen: Case = { piece, swarm, census, now, add, set };
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
  for (const { message, enough } of noticesOf(swarm, notices)) {
    if (enough === undefined) add(message);
    else add(message, `Raise the limit to ${String(enough)}`, [set('limit', enough)]);
  }
  if (!exact && census.alive === 0) {
    const what = census.born === 0 ? 'None are born' : 'None are left';
    causes.push({
      why: `${what} in this run, which began before the last change; what the piece now says is seen when time starts again.`,
      button: 'Start again up to here',
      mend: [],
      again: true,
    });
  } else if (census.born === 0) whyUnborn(seen);
  else if (census.alive === 0) whyDead(seen);
  else {
    whyUnseen(seen);
    const { limit } = swarm.dials;
    if (causes.length === 0 && limit > 0 && census.alive >= limit) {
      add(`The limit of ${String(limit)} holds the count down.`, 'Lift the limit', [
        set('limit', 0),
      ]);
    }
  }
  return causes;
}

function whyUnborn({ piece, swarm, now, add, set }: Case): void {
  const { dials } = swarm;
  const { rate, burst } = birthsIn(dials);
  const placed = takesEachPlace(dials);
  if (placed && dials.start <= now) {
    const empty = emptyPlace(piece, swarm);
    if (empty) add(empty);
    else {
      add('Its emitter has no places to give.', 'A burst of 1000 at 0 s', [
        set('when', 'bursts'),
        set('burst', 1000),
        set('burstAt', 0),
      ]);
    }
  } else if (rate === 0 && burst === 0 && !placed) {
    add('Nothing is born: rate and burst are 0.', 'Set a rate of 2000 /s', [
      set('when', 'steadily'),
      set('rate', 2000),
    ]);
  } else if (dials.start > now) {
    const why = `Births begin at ${String(dials.start)} s; this is ${now.toFixed(1)} s.`;
    add(why, 'Begin at 0 s', [set('start', 0)]);
  } else if (rate === 0 && dials.burstAt > now) {
    const why = `Its burst comes at ${String(dials.burstAt)} s; this is ${now.toFixed(1)} s.`;
    add(why, 'Burst at 0 s', [set('burstAt', 0)]);
  } else add('Nothing is born up to this frame.');
}

function whyDead({ piece, swarm, add, set }: Case): void {
  const empty = emptyPlace(piece, swarm);
  if (empty) {
    add(empty);
    return;
  }
  const longest = longestLife(swarm.dials);
  add(`All have died: the longest lives ${String(longest)} s.`, 'Live twice as long', [
    set('lifetime', times(swarm.dials.lifetime, 2)),
  ]);
}

/** Those that live, and are outside the picture, too small or too dark. */
function whyUnseen({ piece, swarm, census, add, set }: Case): void {
  const { dials } = swarm;
  if (census.inFrame < census.alive * 0.05) {
    add(
      `Only ${String(census.inFrame)} of ${String(census.alive)} are inside the camera's view.`,
      'Turn the camera to the emitter',
      [{ path: ['camera'], value: framed(piece.camera, centreOf(swarm), 2) }],
    );
  }
  if (census.largeEnough < census.inFrame * 0.5) {
    add('Most are smaller than half a pixel.', 'Four times the size', [
      set('size', times(dials.size, 4)),
    ]);
  }
  if (census.brightEnough >= census.largeEnough * 0.5) return;
  const opacity = rangeOf(dials.opacity)[1];
  if (dials.lasts === 'ever' && fadesIn(dials.opacity)) {
    add('They live for ever, and at the beginning of life they are transparent.', 'No fading', [
      set('opacity', opacity),
    ]);
  } else if (opacity < 0.02) {
    add('They are nearly transparent.', 'Set the opacity to 0.8', [set('opacity', 0.8)]);
  } else {
    add('Most are darker than one step of the picture.', 'Eight times the light', [
      set('light', times(dials.light, 8)),
    ]);
  }
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
