import { useSyncExternalStore } from 'react';
import {
  frameCount,
  isVideo,
  STILLS,
  videoOf,
  type JobAct,
  type RenderJob,
} from '@vast-swarm/core/formats';
import { noticed } from '../store/noticeSlice';
import { useAppDispatch } from '../store/store';
import { ChunkStrip } from './ChunkStrip';
import { RenderRow, SaveLink, type Listed } from './RenderRow';
import { Shelf } from './Shelf';
import { actOnServer, lookAt, madeAt, removeFromServer } from './serverRenders';
import { WorkersShelf } from './WorkersShelf';
import { serverWatch } from './serverWatch';

const titleOf = (format: RenderJob['order']['format']): string =>
  isVideo(format) ? videoOf(format).title : STILLS[format].title;

function listed(job: RenderJob): Listed {
  const { order } = job;
  const about = `${titleOf(order.format)} · ${String(order.width)} × ${String(order.height)}`;
  const total = frameCount(order);
  return { ...job, name: order.name, about, total, note: `In ${job.folder}` };
}

/** Renders at the server: they go on when this page is closed. */
export function ServerShelf() {
  const { jobs, workers, trouble } = useSyncExternalStore(serverWatch.subscribe, serverWatch.seen);
  const nothing = jobs?.length === 0 && !trouble;
  const dispatch = useAppDispatch();
  const done = (asked: Promise<void>): void => {
    asked
      .catch((error: unknown) => {
        const message = error instanceof Error ? error.message : String(error);
        dispatch(noticed({ key: 'renders', kind: 'wrong', message }));
      })
      .finally(() => void serverWatch.look());
  };
  return (
    <>
      <Shelf
        title="At the server"
        about={
          trouble ??
          'One after the other, also when this page is closed or the machine starts again.'
        }
        empty={
          nothing
            ? 'Nothing here. Open a piece, choose Render, and switch on “Render at the server”.'
            : null
        }
      >
        {!trouble &&
          jobs?.map((job) => (
            <RenderRow
              key={job.id}
              render={listed(job)}
              look={
                job.frame !== null && (
                  <img src={lookAt(job.id, job.done)} alt={`Frame ${String(job.frame)}`} />
                )
              }
              made={job.state === 'done' && <SaveLink href={madeAt(job.id)}>Save</SaveLink>}
              strip={
                job.chunks && (
                  <ChunkStrip
                    chunks={job.chunks}
                    workers={(workers ?? []).filter((w) => w.at?.render === job.id)}
                  />
                )
              }
              onAct={(act: JobAct) => {
                done(actOnServer(job.id, act));
              }}
              onRemove={() => {
                done(removeFromServer(job.id));
              }}
            />
          ))}
      </Shelf>
      {workers && !trouble && <WorkersShelf workers={workers} />}
    </>
  );
}
