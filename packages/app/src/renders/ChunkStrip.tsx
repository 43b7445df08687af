import { Box, Stack } from '@mui/material';
import type { FarmWorker, RenderJob } from '@vast-swarm/core/formats';
import { COLOURS } from '../ui/theme';

interface Props {
  chunks: NonNullable<RenderJob['chunks']>;
  /** Those who are at this render. */
  workers: readonly FarmWorker[];
}

/** The stretches in which a render is made: what is there of each, and which somebody is at. */
export function ChunkStrip({ chunks, workers }: Props) {
  const frames = workers.flatMap(({ at }) => (at?.task === 'frames' ? [at] : []));
  const shown = chunks.map((chunk) => {
    const size = chunk.last - chunk.first + 1;
    const busy = frames.some((at) => at.first <= chunk.last && at.last >= chunk.first);
    return { ...chunk, size, busy: busy && chunk.made < size };
  });
  const done = shown.filter((c) => c.made === c.size).length;
  const busy = shown.filter((c) => c.busy).length;
  return (
    <Stack
      direction="row"
      role="img"
      aria-label={`${String(done)} of ${String(chunks.length)} chunks are made, ${String(busy)} are being made`}
      sx={{ gap: '2px', height: 8, mb: 0.75 }}
    >
      {shown.map(({ first, size, made, busy: isBusy }) => (
        <Box
          key={first}
          sx={{
            flex: size,
            minWidth: 0,
            borderRadius: '1px',
            overflow: 'hidden',
            background: isBusy ? `${COLOURS.amber}55` : COLOURS.line,
          }}
        >
          <Box
            sx={{
              width: `${String((100 * made) / size)}%`,
              height: 1,
              background: made === size ? COLOURS.glass : COLOURS.amber,
            }}
          />
        </Box>
      ))}
    </Stack>
  );
}
