import {
  documentIn,
  fileNameOf,
  orderSchema,
  renderJobSchema,
  type RenderJob,
  type RenderOrder,
} from '@vast-swarm/core/formats';
import { parsePiece, PieceError, describeProblem } from '@vast-swarm/core/piece';
import { unzip } from '@vast-swarm/core/stock';
import { isVideo, STILLS } from '@vast-swarm/core/formats';
import { randomUUID } from 'node:crypto';
import { existsSync } from 'node:fs';
import { readdir, readFile, rm } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { firstOf } from '../firstOf';
import { Refused } from '../refused';
import { makeFolder, writeWhole } from '../writeWhole';

/** Renders as folders: what was ordered, how it stands, and what has been made of it. */

const JOB = 'job.json';
const PIECE = 'piece.swarm.json';
/** Names of the folder of what was made, and of the latest frame, small. */
const MADE = 'made';
const LOOK = 'latest.png';
/** Letters of a piece's name in that of its folder. */
const MOST_LETTERS = 40;

export const pieceOf = ({ folder }: RenderJob): string => join(folder, PIECE);
export const lookOf = ({ folder }: RenderJob): string => join(folder, LOOK);
export const madeOf = ({ folder }: RenderJob): string => join(folder, MADE);

/** The target of a render: a video, or the names of its frames. */
export function outOf(job: RenderJob): string {
  const { format, frames } = job.order;
  const name = isVideo(format) ? `video.${format}` : `${frames}.${STILLS[format].ending}`;
  return join(madeOf(job), name);
}

/** @throws Refused where it is no order, with what is wrong */
function orderIn(bytes: Uint8Array | undefined): RenderOrder {
  let given: unknown;
  try {
    given = JSON.parse(new TextDecoder().decode(bytes));
  } catch {
    throw new Refused('This is no order of a render: it has no order.json.');
  }
  const read = orderSchema.safeParse(given);
  if (read.success) return read.data;
  throw new Refused(`order.json: ${firstOf(read.error, 'the order')}.`);
}

/** @throws Refused where there is no piece in it that can be read, or it has not the frames that are ordered */
function pieceIn(entries: Record<string, Uint8Array>, { last }: RenderOrder): string {
  const found = documentIn(entries, 'vast-swarm piece');
  if (!found) throw new Refused('This is no order of a render: it has no piece.');
  let length: number;
  try {
    length = parsePiece(found.text).frame.length;
  } catch (error) {
    if (!(error instanceof PieceError)) throw error;
    throw new Refused(`The piece cannot be read: ${describeProblem(error.problems[0]!)}.`);
  }
  if (last < length) return found.text;
  throw new Refused(`order.json: last: the piece has frames 0 to ${String(length - 1)}.`);
}

/**
 * Makes the folder of a render.
 *
 * @param bytes of a zip, see renderOrder.ts
 * @throws Refused where it is none, with what is wrong, or nothing can be written; nothing is left then
 */
export async function newJob(renders: string, bytes: Uint8Array): Promise<RenderJob> {
  let entries: Record<string, Uint8Array>;
  try {
    entries = unzip(bytes);
  } catch (error) {
    throw new Refused(error instanceof Error ? error.message : String(error));
  }
  const order = orderIn(entries['order.json']);
  const text = pieceIn(entries, order);
  const id = randomUUID().slice(0, 8);
  const folder = join(renders, `${fileNameOf(order.name).slice(0, MOST_LETTERS)}-${id}`);
  const job: RenderJob = {
    id,
    order,
    folder,
    state: 'waiting',
    priority: 0,
    added: Date.now(),
    ended: null,
    done: 0,
    perSecond: 0,
    secondsLeft: null,
    frame: null,
    problem: null,
  };
  try {
    await makeFolder(join(folder, 'stock'));
    for (const [name, file] of Object.entries(entries)) {
      // Names of files alone: nothing is written anywhere else.
      if (/^stock\/[^/]+$/.test(name))
        await writeWhole(join(folder, 'stock', basename(name)), file);
    }
    await writeWhole(join(folder, PIECE), text);
    await keepJob(job);
  } catch (error) {
    await rm(folder, { recursive: true, force: true });
    throw error;
  }
  return job;
}

export async function keepJob(job: RenderJob): Promise<void> {
  await writeWhole(join(job.folder, JOB), `${JSON.stringify(job, null, 2)}\n`);
}

export async function removeJob({ folder }: RenderJob): Promise<void> {
  await rm(folder, { recursive: true, force: true });
}

/**
 * The renders of a folder, as they were left.
 * @param tell hears of those that cannot be read
 */
export async function jobsIn(renders: string, tell: (text: string) => void): Promise<RenderJob[]> {
  await makeFolder(renders);
  const jobs: RenderJob[] = [];
  for (const name of await readdir(renders)) {
    const folder = join(renders, name);
    if (!existsSync(join(folder, JOB))) continue;
    try {
      const job = renderJobSchema.parse(JSON.parse(await readFile(join(folder, JOB), 'utf8')));
      jobs.push({ ...job, folder });
    } catch {
      tell(`${folder}: this render cannot be read; it is left as it is.`);
    }
  }
  return jobs;
}
