import { hash, pow, Vec3, type Expr } from '@vast-swarm/kernel';
import { number, swarmDial } from '../../../language/dials';
import { SWARM } from '../../../language/names';
import { nowhere } from './mesh';
import { emitter } from '../../define';

/** Slots that are tried in turn for one that is alive. */
const TRIES = 12;

export const swarm = emitter({
  kind: 'swarm',
  title: 'Another swarm',
  help: 'Particles start where those of another swarm are, moved and turned by its place.',
  icon: 'M7 7a2 2 0 1 0 .01 0M15 5h.01M19 10h.01M17 16h.01M11 19h.01M13 12h.01M9 9l3 2M10 10l5 5',
  dials: {
    swarm: swarmDial('The swarm whose particles they start from.'),
    jitter: number('Jitter', 0, [0, 1000], 'How far round the particle, at random.', { unit: 'm' }),
    share: number('Takes along', 0, [-10, 10], "The part of the other's velocity it starts with."),
  },
  parent: (dials) => dials.swarm,
  whyNoBirths(dials, piece) {
    const parent = piece.swarm(dials.swarm);
    if (!parent) return 'It is born from a swarm, and none is chosen.';
    return parent.on ? null : `It is born from ${parent.name}, which is switched off.`;
  },
  build(dial) {
    const { builder, graph: g } = dial;
    const particle = dial.particle!;
    if (!builder.parent) return nowhere(dial);
    const slots = builder.uniform(SWARM.own('parentSlots'), builder.parent.slots, 'i32');
    const zero = g.int(0);
    const { turn: turned } = builder.parent;
    const turn = turned === null ? null : builder.uniform(SWARM.own('parentTurn'), turned, 'i32');
    const slotOf = (at: Expr): Expr => {
      if (!turn) return at;
      const on = at.add(turn);
      return on.lt(slots).select(on, on.sub(slots));
    };
    const read = (name: string, at: Expr): Expr => g.load(`parent.${name}`, slotOf(at));
    const first = dial.random('slot').mul(slots.toFloat()).toInt();
    const alive = (at: Expr): Expr => {
      const age = read('age', at);
      return age.ge(0).and(age.lt(read('life', at)));
    };
    const last = slots.sub(1).max(0);
    // Slots are tried until one is alive: the loop ends at once for a particle that has found its own.
    const start = first.max(0).min(last);
    const count = alive(start).select(0, g.int(TRIES));
    const [slot] = g.loop(count, [start], (again, [at]) => {
      const other = hash(particle.id.xor(again.mul(0x3c6ef372)))
        .shrU(8)
        .toFloat();
      const next = other
        .mul(2 ** -24)
        .mul(slots.toFloat())
        .toInt()
        .max(0)
        .min(last);
      return [alive(at!).select(at!, next)];
    });
    const vec = (a: string, b: string, c: string): Vec3 =>
      new Vec3(read(a, slot!), read(b, slot!), read(c, slot!));
    const velocity = vec('vx', 'vy', 'vz');
    // The other's state is that at the end of the step: back to the moment of this birth.
    const back = g
      .float(1)
      .sub(particle.born!)
      .mul(1 / dial.rate);
    // Even by volume over a ball.
    const far = pow(dial.random('jitter.far'), g.float(1 / 3)).mul(dial.number('jitter'));
    const spread = dial.randomDirection('jitter').scale(far);
    const position = vec('px', 'py', 'pz').sub(velocity.scale(back)).add(spread);
    const speed = velocity.length();
    const still = speed.lt(1e-6);
    const up = new Vec3(g.float(0), g.float(1), g.float(0));
    const normal = Vec3.select(still, up, velocity.unit());
    return {
      position,
      normal,
      tangent: normal,
      velocity: velocity.scale(dial.number('share')),
      there: slots.gt(zero).and(alive(slot!)),
    };
  },
});
