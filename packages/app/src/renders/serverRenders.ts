import {
  farmWorkerSchema,
  renderJobSchema,
  type FarmWorker,
  type JobAct,
  type RenderJob,
} from '@vast-swarm/core/formats';
import { z } from 'zod';

/** Renders at the server that the page comes from. */

const API = '/api/renders';
const listSchema = z.object({
  renders: z.array(renderJobSchema),
  workers: z.array(farmWorkerSchema).optional(),
});
const problemSchema = z.object({ problem: z.string() });

/** @throws an Error in words where the server does not do it */
async function asked(path: string, init?: RequestInit): Promise<Response> {
  const answer = await fetch(`${API}${path}`, init).catch(() => {
    throw new Error('The server does not answer.');
  });
  if (answer.ok) return answer;
  const said = problemSchema.safeParse(await answer.json().catch(() => null));
  throw new Error(said.success ? said.data.problem : 'There are no renders at this server.');
}

/** @throws an Error in words where there are none at this server */
export async function serverRenders(): Promise<{
  jobs: RenderJob[];
  /** Null where the server renders by itself. */
  workers: FarmWorker[] | null;
}> {
  const said: unknown = await (await asked('')).json().catch(() => null);
  const read = listSchema.safeParse(said);
  if (read.success) return { jobs: read.data.renders, workers: read.data.workers ?? null };
  // Whatever answers here is another program.
  throw new Error('There are no renders at this server.');
}

/** @param order a zip, see core's renderOrder.ts */
export async function orderRender(order: Blob): Promise<RenderJob> {
  const headers = { 'content-type': 'application/zip' };
  const answer = await asked('', { method: 'POST', headers, body: order });
  return renderJobSchema.parse(await answer.json());
}

export async function actOnServer(id: string, act: JobAct): Promise<void> {
  await asked(`/${id}/${act}`, { method: 'POST' });
}

export async function removeFromServer(id: string): Promise<void> {
  await asked(`/${id}`, { method: 'DELETE' });
}

/** @param frame so that another frame is another address */
export const lookAt = (id: string, frame: number): string =>
  `${API}/${id}/look?frame=${String(frame)}`;
export const madeAt = (id: string): string => `${API}/${id}/made`;
