import { secondIn, type FramePass, type PassPlan, type Plan } from '@vast-swarm/core/plan';
import type { ExrChannel, Layers } from '@vast-swarm/core/formats';
import type { Past } from '@vast-swarm/core/play';
import { channelAt, channelsOf, coverOf, type Channels } from './channels';
import type { Memories } from './memories';
import type { Planes } from './rasteriser';
import type { Stage } from './stage';
import type { DrawSize } from './strips';

/** Layers of a frame beside its picture, for OpenEXR. */

/** Names of layers have no dots, which part them from their channels. */
function layerName(name: string, taken: Set<string>): string {
  const plain = name
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .replace(/[^A-Za-z0-9_-]+/g, '_');
  let free = plain;
  for (let n = 2; taken.has(free); n++) free = `${plain}_${String(n)}`;
  taken.add(free);
  return free;
}

function lightLayer(layer: string, light: Channels, cover?: Float32Array): ExrChannel[] {
  const values = { R: light[0], G: light[1], B: light[2], ...(cover ? { A: cover } : {}) };
  return Object.entries(values).map(([name, v]) => {
    return { name: `${layer}.${name}`, values: v, as: 'half' };
  });
}

const NO_MEDIA = { behind: [], before: [] };

/** Names of swarms as their numbers stand for them; longer texts are too much for some readers. */
const MOST_LETTERS = 60;

export const NO_LAYERS: Layers = { channels: [], notes: {} };

interface State {
  plan: Plan;
  frame: number;
  past: Past;
}

export class Passes {
  constructor(
    private readonly stage: Stage,
    private readonly memories: Memories,
  ) {}

  /** @param planes the picture before its finish */
  of(passes: PassPlan, state: State, size: DrawSize, planes: Planes): Layers {
    const named = [...passes.alone].map(([n, { name }]): [string, string] => [
      `swarm${String(n)}`,
      name.slice(0, MOST_LETTERS),
    ]);
    const notes = passes.wanted.includes('swarm') ? Object.fromEntries(named) : {};
    return { channels: this.channels(passes, state, size, planes), notes };
  }

  private channels(passes: PassPlan, state: State, size: DrawSize, planes: Planes): ExrChannel[] {
    const wants = (pass: FramePass): boolean => passes.wanted.includes(pass);
    const unfinished = wants('unfinished')
      ? lightLayer('unfinished', channelsOf(this.memories, planes))
      : [];
    return [
      ...unfinished,
      ...this.measured(passes, state, size, wants),
      ...(wants('alone') ? this.alone(passes, state, size) : []),
    ];
  }

  private measured(
    passes: PassPlan,
    state: State,
    size: DrawSize,
    wants: (pass: FramePass) => boolean,
  ): ExrChannel[] {
    if (!wants('depth') && !wants('motion') && !wants('swarm')) return [];
    const { plan, frame } = state;
    const earlier = plan.at(frame - 1).camera(secondIn(plan.frame, frame - 1, 1));
    const { planes, nearest } = this.stage.measure(size, state, passes.measured, earlier);
    const [x, y, number] = channelsOf(this.memories, planes);
    const made: Record<string, [FramePass, Float32Array]> = {
      Z: ['depth', channelAt(this.memories, nearest, planes)],
      'motion.X': ['motion', x],
      'motion.Y': ['motion', y],
      // Meshes bring it as a mean over their faces, which may be off by its last bit.
      'swarm.number': ['swarm', number.map(Math.round)],
    };
    return Object.entries(made)
      .filter(([, [pass]]) => wants(pass))
      .map(([name, [, values]]) => ({ name, values, as: 'float' }));
  }

  /** Each swarm by itself: nothing hides it, and it has no shadow. */
  private alone({ alone, dark, lit }: PassPlan, state: State, size: DrawSize): ExrChannel[] {
    const { stage, memories } = this;
    const taken = new Set(['motion', 'swarm', 'unfinished']);
    const { mediumLayers } = state.plan;
    const bare = { ...state.plan, shadows: null, mediumLayers: { ...mediumLayers, ...NO_MEDIA } };
    return [...alone.values()].flatMap(({ name, drawing }) => {
      const over = (backdrop: Plan['backdrop']): Channels => {
        const plan = { ...bare, backdrop };
        return channelsOf(memories, stage.draw('alone', size, { ...state, plan }, drawing, true));
      };
      const light = over(dark);
      return lightLayer(layerName(name, taken), light, coverOf(light, over(lit)));
    });
  }
}
