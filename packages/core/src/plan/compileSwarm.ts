import { layersOf } from '../feeds/feeds';
import { birthKernel } from './motion/birthKernel';
import { copiesOf, copyCount } from './look/copies';
import { drawsOf, measuredDraws, shadowsOf } from './look/draws';
import { historyStates } from './motion/history';
import { modulo } from '../feeds/loop';
import { KernelData, type KernelBuilder } from '../language/builder';
import type { PlanKernel } from '../language/frame';
import { motionKernel } from './motion/motionKernel';
import { parentOf } from './motion/motionKey';
import { roomFor, type Allotted } from './motion/room';
import { gridPlan } from './motion/neighbourGrid';
import { bornAt, MOST_DRAWN, type Notice, type SwarmPlan } from './plan';
import { readingsKernel } from './look/fileReadings';
import { cappedText, colourlessText, orphanText, placelessText } from './swarmNotices';
import type { PlanPart } from './cache';
import type { Scene } from './scene';
import { giveKernel } from './media/giving';
import { stirredBy } from './media/givers';
import { placeOfMedium } from './media/mediumSpace';
import { leavesInFields } from './fields/fieldPlan';
import { isCarried, SEEN, wantSeen } from './motion/seenVelocity';
import { STATE } from '../language/particle';

/** Which slots of a swarm are in use, for those that are born from it. */
function slotsIn(parent: SwarmPlan, scene: Scene): NonNullable<KernelBuilder['parent']> {
  const { capacity, turns } = parent;
  const slots = ({ frame }: { frame: number }): number => Math.min(capacity, bornAt(parent, frame));
  if (turns === null || turns.count === 1) return { slots, turn: null };
  const { ids, count } = turns;
  return { slots, turn: ({ frame }) => modulo(scene.round(frame), count) * ids };
}

interface Compiled {
  plan: SwarmPlan;
  notices: Notice[];
}

/** Inputs of a swarm's compile. */
interface SwarmSource extends Allotted, Pick<SwarmPlan, 'motionKey'> {
  parent: SwarmPlan | null;
  /** Its number, where it is measured how its bodies are seen. */
  number: number | null;
}

/** A swarm made ready for an engine. */
export const swarmPart: PlanPart<SwarmSource, Compiled> = {
  name: 'swarm',
  dependsOn({ scene, swarm, left, parent, bake, motionKey, number, roundsAhead }) {
    const { piece, signalled, stocked, lens } = scene;
    // A layer of its colour may be another swarm's.
    const layers = [swarm, ...swarm.bodies].flatMap(({ dials }) =>
      Object.values(dials).flatMap(layersOf),
    );
    const others = layers.some((l) => l.by === 'swarm') ? piece.swarms : null;
    // What the kernels of drawing are made for.
    const { kind, dials } = piece.camera;
    const style = [kind, lens, dials.shutter === 0, piece.density, piece.lights];
    const room = [left, roundsAhead, bake?.name];
    const born = [motionKey, ...room, parent?.id, parent?.capacity, parent?.motionKey];
    // What it gives to media and what its look reads of them depend on where these are.
    const around = [
      piece.media.map((m) => placeOfMedium(piece, m)),
      stirredBy(piece, swarm.id).map((m) => m.id),
    ];
    return [swarm, others, piece.frame, signalled, stocked, style, born, around, number];
  },
  make: compileSwarm,
};

function compileSwarm(source: SwarmSource): Compiled {
  const { scene, swarm, left, parent, motionKey, number } = source;
  const { bake, ...room } = roomFor(source);
  const { needed, most, births, capacity, turns, history } = room;
  const limit = swarm.dials.limit || Infinity;
  const notices: Notice[] = [];
  if (most < needed && !bake) {
    const byLimit = limit <= left;
    const message = cappedText(swarm, needed, most, byLimit);
    notices.push({ part: swarm.id, message, ...(byLimit ? { enough: needed } : {}) });
  }
  const placeless = placelessText(swarm, scene);
  if (placeless !== null) notices.push({ part: swarm.id, message: placeless });
  if (parentOf(swarm) && !parent)
    notices.push({ part: swarm.id, message: orphanText(scene, swarm) });
  const drawable = Math.max(1, Math.floor(MOST_DRAWN / capacity));
  const copies = copiesOf(swarm.copies, drawable);
  const wanted = copyCount(swarm.copies);
  if (wanted > drawable) {
    const [all, held] = [wanted, drawable].map((n) => n.toLocaleString('en-GB'));
    const message = `${swarm.name} would be drawn ${all!} times with ${capacity.toLocaleString('en-GB')} particles each; the machine's limit holds it at ${held!} times. Use fewer copies or a lower rate.`;
    notices.push({ part: swarm.id, message });
  }
  // A bake has only what it was stored with.
  const carried = bake ? bake.state.includes(SEEN[0]!) : isCarried(scene.piece, swarm);
  const data = new KernelData(carried, turns);
  const stirred = stirredBy(scene.piece, swarm.id);
  const leaves = stirred.length > 0 || leavesInFields(scene.piece, swarm.id);
  if (carried && !bake && leaves) wantSeen(data);
  const told: string[] = [];
  const size = { capacity, copies: copies.length };
  const draws = drawsOf(scene, swarm, size, data, told);
  const shadows = shadowsOf(scene, swarm, size, data);
  const measured = number === null ? [] : measuredDraws(scene, swarm, size, data, number);
  notices.push(...told.map((message) => ({ part: swarm.id, message })));
  const readings = (): PlanKernel => readingsKernel(scene, swarm, capacity, data);
  // It reads the tables that the bodies bring; without any it brings its own.
  if (draws.length === 0) readings();
  const gives = new Map(
    stirred.map(({ id }) => [id, giveKernel(scene, swarm, scene.medium(id)!, capacity, data)]),
  );
  // Behind the looks, which may want to see more of the motion.
  const { motion, grid } = motionKernel(
    scene,
    swarm,
    { capacity, held: most < needed ? most : null },
    data,
  );
  // Last: it finds what the others want kept from birth.
  const { birth, coloured } = birthKernel(scene, swarm, data, parent && slotsIn(parent, scene));
  const colourless = coloured ? null : colourlessText(swarm, scene);
  if (colourless !== null) notices.push({ part: swarm.id, message: colourless });
  const plan: SwarmPlan = {
    id: swarm.id,
    name: swarm.name,
    capacity,
    births,
    birth,
    motion,
    draws,
    measured,
    shadows,
    bake,
    history,
    turns,
    motionKey: bake ? `bake ${bake.name}` : motionKey,
    readings,
    tables: Float32Array.from(data.samples),
    blocks: data.blocks,
    tracks: data.tracks,
    gives,
    fields: data.fields,
    state: [
      ...new Set([...STATE, ...(bake?.state ?? []), ...data.kept.keys()]),
      ...historyStates(history),
    ],
    parent: parent?.id ?? null,
    grid: grid === null ? null : gridPlan(scene, capacity, grid, data, true),
    copies,
  };
  return { plan, notices };
}
