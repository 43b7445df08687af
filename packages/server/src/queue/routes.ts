import { JOB_ACTS, type FarmWorker, type JobAct, type RenderJob } from '@vast-swarm/core/formats';
import express, { type NextFunction, type Request, type Response, type Router } from 'express';
import { strToU8, Zip, ZipPassThrough } from 'fflate';
import { createReadStream } from 'node:fs';
import { readdir } from 'node:fs/promises';
import { basename, extname, join } from 'node:path';
import type { Guard } from '../guard';
import { isVideo } from '@vast-swarm/core/formats';
import { Refused } from '../refused';
import { lookOf, madeOf, outOf } from './jobFolder';
import type { RenderQueue } from './queue';

/** The largest order that is read: a piece with all that it uses from files. */
const MOST = 1024 * 2 ** 20;

/** The words where there is no queue. */
export type NoQueue = string;

type Named = Request<{ id: string }>;

/**
 * Renders by HTTP: `GET /renders` lists them, `POST /renders` takes an order, `POST /renders/ID/ACT` does something with one,
 * `DELETE /renders/ID` takes it away with what was made; `GET /renders/ID/look` and `/made` are the latest frame and the files.
 */
export function renderRoutes(
  guard: Guard,
  queue: RenderQueue | NoQueue,
  workers: (() => Promise<FarmWorker[]>) | null = null,
): Router {
  const router = express.Router();
  router.use((request, response, next) => {
    if (guard.admits(request, false)) next();
    else response.status(403).json({ problem: 'Only pages of this server are answered.' });
  });
  if (typeof queue === 'string') {
    router.use((_, response) => {
      response.status(503).json({ problem: queue });
    });
    return router;
  }
  const job = (request: Named): RenderJob => {
    const found = queue.job(request.params.id);
    if (!found) throw new Refused('There is no render of that name here.');
    return found;
  };
  router.get('/renders', async (_, response) => {
    response.json({ renders: queue.list(), ...(workers ? { workers: await workers() } : {}) });
  });
  router.post(
    '/renders',
    express.raw({ type: 'application/zip', limit: MOST }),
    async (request, response) => {
      const body: unknown = request.body;
      if (!(body instanceof Buffer)) throw new Refused('An order is a zip.');
      response.status(201).json(await queue.add(new Uint8Array(body)));
    },
  );
  router.post('/renders/:id/:act', (request, response) => {
    const act = JOB_ACTS.find((known): known is JobAct => known === request.params.act);
    if (!act) throw new Refused(`What can be done is ${JOB_ACTS.join(', ')}.`);
    response.json(queue.act(request.params.id, act));
  });
  router.delete('/renders/:id', async (request: Named, response) => {
    await queue.remove(request.params.id);
    response.status(204).end();
  });
  router.get('/renders/:id/look', (request: Named, response) => {
    response.set('Cache-Control', 'no-store').sendFile(lookOf(job(request)));
  });
  router.get('/renders/:id/made', async (request: Named, response) => {
    const found = job(request);
    const name = basename(found.folder);
    if (isVideo(found.order.format))
      response.download(outOf(found), `${name}.${found.order.format}`);
    else await sendFrames(found, response.attachment(`${name}.zip`).type('zip'));
  });
  router.use((error: unknown, _: Request, response: Response, next: NextFunction) => {
    if (response.headersSent || !(error instanceof Refused)) {
      next(error);
      return;
    }
    response.status(400).json({ problem: error.message });
  });
  return router;
}

/** Waits until more can be written, or nobody is there any more. */
function drained(response: Response): Promise<void> {
  return new Promise((go) => {
    const end = (): void => {
      response.off('drain', end).off('close', end);
      go();
    };
    response.once('drain', end).once('close', end);
  });
}

/** All frames that are there, stored as they are: they are packed already. */
async function sendFrames(job: RenderJob, response: Response): Promise<void> {
  const folder = madeOf(job);
  const ending = extname(outOf(job));
  const names = (await readdir(folder)).filter((name) => name.endsWith(ending)).sort();
  const failures: Error[] = [];
  const zip = new Zip((error, chunk, final) => {
    if (error) failures.push(error);
    else response.write(chunk);
    if (final) response.end();
  });
  for (const name of names) {
    const entry = new ZipPassThrough(name);
    zip.add(entry);
    for await (const chunk of createReadStream(join(folder, name))) {
      if (failures.length > 0 || response.destroyed) return;
      entry.push(chunk as Buffer);
      if (response.writableNeedDrain) await drained(response);
    }
    entry.push(new Uint8Array(0), true);
  }
  const order = new ZipPassThrough('order.json');
  zip.add(order);
  order.push(strToU8(JSON.stringify(job.order, null, 2)), true);
  zip.end();
}
