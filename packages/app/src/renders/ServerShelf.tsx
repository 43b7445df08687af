import { Box, Typography } from '@mui/material';
import { useSyncExternalStore } from 'react';
import { framesOfOrder, type JobAct, type RenderJob } from '@vast-swarm/core';
import { noticed } from '../store/noticeSlice';
import { useAppDispatch } from '../store/store';
import { COLOURS } from '../theme';
import { RenderRow, SaveLink, type Listed } from './RenderRow';
import { actOnServer, lookAt, madeAt, removeFromServer } from './serverRenders';
import { serverWatch } from './serverWatch';

const FORMATS: Record<RenderJob['order']['format'], string> = {
  ...{ png: 'PNG', png16: 'PNG, 16 bits', exr: 'OpenEXR' },
  ...{ mp4: 'MP4', webm: 'WebM', mov: 'MOV' },
};

function listed(job: RenderJob): Listed {
  const { order } = job;
  const about = `${FORMATS[order.format]} · ${String(order.width)} × ${String(order.height)}`;
  const total = framesOfOrder(order);
  return { ...job, name: order.name, about, total, note: `In ${job.folder}` };
}

/** Renders at the server: they go on when this page is closed. */
export function ServerShelf() {
  const { jobs, trouble } = useSyncExternalStore(serverWatch.subscribe, serverWatch.seen);
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
    <Box component="section" aria-label="At the server" sx={{ mt: 4 }}>
      <Typography variant="h2">At the server</Typography>
      <Typography sx={{ color: COLOURS.faint, fontSize: 13, mb: 1 }}>
        {trouble ??
          'One after the other, also when this page is closed or the machine starts again.'}
      </Typography>
      {jobs?.length === 0 && !trouble && (
        <Typography sx={{ color: COLOURS.faint, py: 2 }}>
          Nothing here. Open a piece, choose Render, and switch on “Render at the server”.
        </Typography>
      )}
      <Box component="ul" sx={{ listStyle: 'none', m: 0, p: 0 }}>
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
              onAct={(act: JobAct) => {
                done(actOnServer(job.id, act));
              }}
              onRemove={() => {
                done(removeFromServer(job.id));
              }}
            />
          ))}
      </Box>
    </Box>
  );
}
