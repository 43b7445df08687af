import type { DrawContext } from './context';
import { bodyDials } from '../../../sections/swarms/bodies/common';
import { valuesOf } from '../../../language/dials';
import { Vec3 } from '@vast-swarm/kernel';
import { kindOf } from '../../../sections';
import type { Swarm } from '../../../piece/types';
import { KernelBuilder, type KernelData } from '../../../language/builder';
import type { PlanKernel } from '../../../language/frame';
import type { Scene } from '../../scene';
import { instancesKernel } from '../instances';
import { casterOf, shadowDraw } from '../shadows';
import { shown } from '../appearance';
import { motionOf } from '../screenMotion';
import { View } from '../../../language/view';
import { discDraw } from './discs';
import type { Draw } from './draw';
import { linkDraw } from './links';
import { markDraw } from './marks';
import { meshDraw } from './meshes';
import { trailDraw } from './trails';

type Sizes = Pick<DrawContext, 'capacity' | 'copies'>;

/** Drawing inputs of each body that is shown. */
function contextsOf(
  scene: Scene,
  swarm: Swarm,
  size: Sizes,
  data: KernelData,
  notices: string[],
  sharp = false,
): DrawContext[] {
  return swarm.bodies
    .filter((body) => body.on)
    .map((body) => {
      const builder = new KernelBuilder(scene, data);
      const view = new View(builder, 'camera', sharp);
      builder.onScreen = (place) => view.part(place);
      const see = shown(builder, view, swarm, body, size.capacity);
      const light: DrawContext['light'] = (own, covers) => own.scale(covers);
      return { builder, view, see, swarm, body, ...size, notices, light, measured: false };
    });
}

/** Shadows of a swarm's opaque mesh copies, where a light casts them: as much as is covered. */
export function shadowsOf(scene: Scene, swarm: Swarm, size: Sizes, data: KernelData): Draw[] {
  const caster = casterOf(scene);
  if (!caster) return [];
  // What is wrong with a mesh is said of the body itself.
  return contextsOf(scene, swarm, size, data, []).flatMap((context) => {
    const { builder, see, body } = context;
    const { shape } = kindOf('bodies', body.kind);
    if (shape.draws !== 'mesh' || body.dials.mode !== 'opaque') return [];
    const one = builder.graph.float(1);
    const white = { ...see, colour: new Vec3(one, one, one) };
    const draw = shadowDraw({ ...context, see: white }, caster);
    if (!draw) return [];
    const common = { id: `${body.id}.shadow`, mode: 'lighten', kernel: builder } as const;
    return { ...common, ...draw, soft: () => 0, measured: false, gloss: () => 0 };
  });
}

/** The bodies of a swarm as they are drawn, in order; those with nothing to draw are left out. */
export function drawsOf(
  scene: Scene,
  swarm: Swarm,
  size: Sizes,
  data: KernelData,
  notices: string[],
): Draw[] {
  return contextsOf(scene, swarm, size, data, notices).flatMap((context) => {
    const { builder, body } = context;
    const { soft, mode } = valuesOf(bodyDials, body.dials);
    const common = {
      id: body.id,
      mode,
      kernel: builder,
      soft: (time: number) => scene.number(soft, time),
      measured: false,
    };
    const draw = shapeOf(context);
    if (draw?.shape !== 'meshes') return draw ? { ...common, ...draw } : [];
    const instances = (): PlanKernel => instancesKernel(scene, swarm, body, size.capacity, data);
    return { ...common, ...draw, instances };
  });
}

/**
 * The bodies once more, as what is measured of them: each as a whole, sharp, and with its way over the screen since the
 * frame before (see motionOf) and the number of its swarm in place of light.
 */
export function measuredDraws(
  scene: Scene,
  swarm: Swarm,
  size: Sizes,
  data: KernelData,
  number: number,
): Draw[] {
  return contextsOf(scene, swarm, size, data, [], true).flatMap((given) => {
    const { builder, body } = given;
    const light: DrawContext['light'] = (_own, _covers, stands) => {
      const [x, y] = motionOf(given, stands);
      return new Vec3(x, y, builder.graph.float(number));
    };
    const draw = shapeOf({ ...given, light, measured: true });
    const common = { mode: 'opaque', kernel: builder, measured: true } as const;
    if (!draw) return [];
    const matt = draw.shape === 'meshes' ? { gloss: () => 0 } : {};
    return { id: `${body.id}.measured`, ...common, ...draw, ...matt, soft: () => 0 };
  });
}

type Shape<D> = D extends unknown ? Omit<D, 'id' | 'mode' | 'kernel' | 'soft' | 'measured'> : never;

/** A body by its shape; null where there is nothing to draw. */
function shapeOf(context: DrawContext): Shape<Draw> | null {
  const { shape } = kindOf('bodies', context.body.kind);
  switch (shape.draws) {
    case 'disc':
      // Out of focus it takes the shape of the lens's opening, as marks do.
      return context.view.defocuses ? markDraw(context, 'disc') : discDraw(context);
    case 'mark': {
      const draw = markDraw(context, shape.pattern, shape.param);
      return shape.pattern === 'pictures' && !draw.pictures ? null : draw;
    }
    case 'mesh':
      return meshDraw(context);
    case 'trail':
      return trailDraw(context);
    case 'links':
      return linkDraw(context);
  }
}
