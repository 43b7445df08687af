import { Box, Typography } from '@mui/material';
import type { FarmWorker } from '@vast-swarm/core/formats';
import { COLOURS, MONO } from '../ui/theme';
import { Shelf } from './Shelf';

function taskText({ at }: FarmWorker): string {
  if (!at) return 'Waits';
  if (at.task === 'states') return `Motion of ${at.piece}, up to frame ${String(at.last)}`;
  if (at.first === at.last) return `${at.piece}, frame ${String(at.first)}`;
  return `${at.piece}, frames ${String(at.first)} to ${String(at.last)}`;
}

/** Machines that make frames for the server, and what each is at. */
export function WorkersShelf({ workers }: { workers: readonly FarmWorker[] }) {
  const together = workers.reduce((sum, w) => sum + w.perSecond, 0);
  return (
    <Shelf
      title="Workers"
      about={
        together > 0
          ? `${together.toFixed(1)} frames a second together.`
          : 'They take what the server renders from its queue, a few frames at a time.'
      }
      empty={
        workers.length === 0
          ? 'No worker is there. Start one on any machine with: vast-swarm worker --queue, and the address that the server was given.'
          : null
      }
    >
      {workers.map((worker) => (
        <Box
          key={worker.id}
          component="li"
          aria-label={worker.name}
          sx={{
            display: 'grid',
            gridTemplateColumns: '180px 1fr auto',
            gap: 2,
            py: 1,
            alignItems: 'baseline',
            borderTop: `1px solid ${COLOURS.line}`,
          }}
        >
          <Typography sx={{ fontWeight: 600 }} noWrap title={worker.name}>
            {worker.name}
          </Typography>
          <Typography
            sx={{ color: worker.at ? COLOURS.amber : COLOURS.faint, fontSize: 13 }}
            noWrap
          >
            {taskText(worker)}
          </Typography>
          <Typography sx={{ fontFamily: MONO, fontSize: 12.5, color: COLOURS.faint }}>
            {`${worker.perSecond.toFixed(1)} a second · ${String(worker.made)} made · ${String(worker.threads)} ${worker.threads === 1 ? 'thread' : 'threads'}`}
          </Typography>
        </Box>
      ))}
    </Shelf>
  );
}
