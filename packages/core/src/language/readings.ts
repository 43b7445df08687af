import { atan2, hash, random, randomKey, type Expr } from '@vast-swarm/kernel';
import { formulaNode } from '../formula/graph';
import type { Formula, Name as Reading } from '../formula/parse';
import { FRAME, Owner } from './names';
import { mapAt, type MapReader } from './mapSample';

/** The reader of dials that formulas need. */
interface Reader extends MapReader {
  ownTime(): Expr;
}

/** A formula for a particle. */
export function formulaOf(dial: Reader, parsed: Formula): Expr {
  const { builder, particle } = dial;
  const pick = (n: Expr): Expr => {
    const key = builder.uniform(FRAME.own('pick'), randomKey('pick', builder.seed), 'i32');
    return random(particle!.id, hash(n).xor(key));
  };
  return formulaNode(parsed, builder.graph, {
    pick,
    name: (name) => readingOf(dial, name),
    map: (id, at) => mapAt(dial, id, at),
  });
}

/** The number of the letter that a particle was born on. */
export function letterOf(dial: MapReader): Expr {
  const { letter, birthplace, kept } = dial.particle!;
  const known = letter ?? birthplace?.letter;
  if (known) return known;
  // Before its place is found, and where there is no particle, there is none.
  return kept ? dial.keep('letter', (birth) => birth.letter) : dial.builder.graph.float(0);
}

/** The value of a name in a formula. */
export function readingOf(dial: Reader, name: Reading): Expr {
  const { builder } = dial;
  const g = builder.graph;
  const particle = dial.particle!;
  const zero = g.float(0);
  const { readings } = particle;
  const flat = (): Expr => {
    const v = readings!.velocity;
    return v.x.mul(v.x).add(v.z.mul(v.z)).sqrt();
  };
  const degrees = (y: Expr, x: Expr): Expr => atan2(y, x).mul(180 / Math.PI);
  switch (name) {
    case 'time':
      return dial.ownTime();
    case 'frame':
      return builder.uniform(FRAME.own('number'), (f) => builder.scene.phase(f.frame));
    case 'seed':
      return builder.uniform(FRAME.own('seed'), builder.seed);
    case 'pi':
      return g.float(Math.PI);
    case 'index':
      return particle.id.toFloat();
    case 'letter':
      return letterOf(dial);
    case 'random': {
      const key = randomKey(`${particle.swarm}.random`, builder.seed);
      const owner = new Owner('swarm', particle.swarm);
      return random(particle.id, builder.uniform(owner.own('random'), key, 'i32'));
    }
    case 'age':
      return readings?.age ?? zero;
    case 'life':
      return readings?.life ?? zero;
    case 'lived':
      return particle.life ?? zero;
    case 'x':
    case 'y':
    case 'z':
      return readings?.position[name] ?? zero;
    case 'speed':
      return readings?.velocity.length() ?? zero;
    case 'heading':
      return readings ? degrees(readings.velocity.z.neg(), readings.velocity.x) : zero;
    case 'pitch':
      return readings ? degrees(readings.velocity.y, flat()) : zero;
  }
}
