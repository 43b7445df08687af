import { Vec3 } from '@vast-swarm/kernel';
import { kindOf } from '../../catalogue';
import type { Part, Swarm } from '../../piece/schema';
import { KernelBuilder, type SwarmData } from '../kernelBuilder';
import type { Scene } from '../scene';
import { asShadow, casterOf, shadowDraw } from '../shadows';
import { shown, type Shown } from '../styled';
import { View } from '../view';
import { discDraw } from './discs';
import { DISC, LINK, MARK, MESH, TRAIL, type Draw, type DrawMode } from './draw';
import { linkDraw } from './links';
import { markDraw } from './marks';
import { meshDraw } from './meshes';
import { trailDraw } from './trails';

/** What the drawing of one body is made from. */
export interface DrawContext {
  builder: KernelBuilder;
  view: View;
  see: Shown;
  swarm: Swarm;
  body: Part;
  capacity: number;
  /** Repeats of the swarm. */
  copies: number;
  /** Of the swarm, for notices. */
  name: string;
  notices: string[];
}

/** Shadows of a swarm's opaque mesh copies, where a light casts them. */
export function shadowsOf(
  scene: Scene,
  swarm: Swarm,
  capacity: number,
  copies: number,
  data: SwarmData,
): Draw[] {
  const caster = casterOf(scene);
  if (!caster) return [];
  const solid = swarm.bodies.filter(
    (b) => b.on && b.dials.mode === 'opaque' && kindOf('bodies', b.kind).shape.draws === 'mesh',
  );
  return solid.flatMap((body) => {
    const builder = new KernelBuilder(scene, data);
    const view = new View(builder);
    const see = shown(builder, view, swarm, body, capacity);
    const white = new Vec3(builder.graph.float(1), builder.graph.float(1), builder.graph.float(1));
    const plain = { ...see, colour: white };
    const context = { builder, view, see: plain, swarm, body, capacity, copies };
    // What is wrong with the mesh has been said of the body itself.
    const draw = shadowDraw({ ...context, name: swarm.name, notices: [] }, caster);
    if (!draw) return [];
    const common = { id: body.id, mode: 'opaque' as const, kernel: builder, soft: () => 0 };
    return asShadow({ ...common, ...draw, gloss: () => 0, outputs: MESH });
  });
}

/** The bodies of a swarm as they are drawn, in order; those with nothing to draw are left out. */
export function drawsOf(
  scene: Scene,
  swarm: Swarm,
  capacity: number,
  copies: number,
  data: SwarmData,
  notices: string[],
): Draw[] {
  return swarm.bodies
    .filter((body) => body.on)
    .flatMap((body) => {
      const builder = new KernelBuilder(scene, data);
      const view = new View(builder);
      const see = shown(builder, view, swarm, body, capacity);
      const context = {
        builder,
        view,
        see,
        swarm,
        body,
        capacity,
        copies,
        name: swarm.name,
        notices,
      };
      const { soft } = body.dials;
      const common = {
        id: body.id,
        mode: body.dials.mode as DrawMode,
        kernel: builder,
        soft: (time: number) => scene.number(soft, time),
      };
      const { shape } = kindOf('bodies', body.kind);
      switch (shape.draws) {
        case 'disc':
          // Out of focus it takes the shape of the lens's opening, as marks do.
          if (view.defocuses) return { ...common, ...markDraw(context, 'disc'), outputs: MARK };
          return { ...common, ...discDraw(context), outputs: DISC };
        case 'mark': {
          const draw = markDraw(context, shape.pattern, shape.param);
          if (shape.pattern === 'pictures' && !draw.pictures) return [];
          return { ...common, ...draw, outputs: MARK };
        }
        case 'mesh': {
          const draw = meshDraw(context);
          return draw ? { ...common, ...draw, outputs: MESH } : [];
        }
        case 'trail': {
          const draw = trailDraw(context);
          return draw ? { ...common, ...draw, outputs: TRAIL } : [];
        }
        case 'links': {
          const draw = linkDraw(context);
          return draw ? { ...common, ...draw, outputs: LINK } : [];
        }
      }
    });
}
