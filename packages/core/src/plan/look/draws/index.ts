import type { DrawContext } from './context';
import { bodyDials } from '../../../catalogue/bodies/common';
import { valuesOf } from '../../../language/dials';
import { Vec3 } from '@vast-swarm/kernel';
import { kindOf } from '../../../catalogue';
import type { Swarm } from '../../../piece/types';
import { KernelBuilder, type KernelData } from '../../../language/builder';
import type { PlanKernel } from '../../../language/frame';
import type { Scene } from '../../scene';
import { instancesKernel } from '../instances';
import { casterOf, shadowDraw } from '../shadows';
import { shown } from '../appearance';
import { View } from '../../../language/view';
import { discDraw } from './discs';
import type { Draw } from './draw';
import { linkDraw } from './links';
import { markDraw } from './marks';
import { meshDraw } from './meshes';
import { trailDraw } from './trails';

/** What each body that is shown is drawn from. */
function contextsOf(
  scene: Scene,
  swarm: Swarm,
  size: Pick<DrawContext, 'capacity' | 'copies'>,
  data: KernelData,
  notices: string[],
): DrawContext[] {
  return swarm.bodies
    .filter((body) => body.on)
    .map((body) => {
      const builder = new KernelBuilder(scene, data);
      const view = new View(builder);
      builder.onScreen = (place) => view.part(place);
      const see = shown(builder, view, swarm, body, size.capacity);
      return { builder, view, see, swarm, body, ...size, notices };
    });
}

/** Shadows of a swarm's opaque mesh copies, where a light casts them: as much as is covered. */
export function shadowsOf(
  scene: Scene,
  swarm: Swarm,
  size: Pick<DrawContext, 'capacity' | 'copies'>,
  data: KernelData,
): Draw[] {
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
    return { ...common, ...draw, soft: () => 0, gloss: () => 0 };
  });
}

/** The bodies of a swarm as they are drawn, in order; those with nothing to draw are left out. */
export function drawsOf(
  scene: Scene,
  swarm: Swarm,
  size: Pick<DrawContext, 'capacity' | 'copies'>,
  data: KernelData,
  notices: string[],
): Draw[] {
  return contextsOf(scene, swarm, size, data, notices).flatMap((context) => {
    const { builder, view, body } = context;
    const { soft, mode } = valuesOf(bodyDials, body.dials);
    const common = {
      id: body.id,
      mode,
      kernel: builder,
      soft: (time: number) => scene.number(soft, time),
    };
    const { shape } = kindOf('bodies', body.kind);
    switch (shape.draws) {
      case 'disc':
        // Out of focus it takes the shape of the lens's opening, as marks do.
        if (view.defocuses) return { ...common, ...markDraw(context, 'disc') };
        return { ...common, ...discDraw(context) };
      case 'mark': {
        const draw = markDraw(context, shape.pattern, shape.param);
        if (shape.pattern === 'pictures' && !draw.pictures) return [];
        return { ...common, ...draw };
      }
      case 'mesh': {
        const draw = meshDraw(context);
        const instances = (): PlanKernel =>
          instancesKernel(scene, swarm, body, size.capacity, data);
        return draw ? { ...common, ...draw, instances } : [];
      }
      case 'trail': {
        const draw = trailDraw(context);
        return draw ? { ...common, ...draw } : [];
      }
      case 'links': {
        const draw = linkDraw(context);
        return draw ? { ...common, ...draw } : [];
      }
    }
  });
}
