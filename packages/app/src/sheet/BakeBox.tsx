import { Box, Button, LinearProgress, Stack } from '@mui/material';
import { useMemo } from 'react';
import { fileNamed, wordsKey } from '@vast-swarm/core/stock';
import { motionKeys } from '@vast-swarm/core/plan';
import { makeBake, removeBake } from '../data/bakes';
import { useEngine } from '../engine/EngineContext';
import { useApp, usePiece } from '../store/store';
import { COLOURS } from '../ui/theme';

/** A swarm's stored motion: made, stale, played, deleted. */
export function BakeBox({ swarm }: { swarm: string }) {
  const engine = useEngine();
  const piece = usePiece();
  const bake = useApp((s) => s.bakes.bakes[swarm]);
  const making = useApp((s) => s.bakes.making);
  // Files count as being there: a bake does not go stale because one is missing.
  const key = useMemo(
    () => (bake ? motionKeys(piece, allFiles(piece.stock)).get(swarm) : undefined),
    [bake, piece, swarm],
  );
  const stale = bake !== undefined && bake.key !== key;
  if (making?.swarm === swarm) {
    const part = (100 * making.done) / making.total;
    return (
      <Stack direction="row" role="status" sx={{ alignItems: 'center', gap: 1, fontSize: 12.5 }}>
        Baking {making.done} of {making.total} frames
        <LinearProgress variant="determinate" value={part} sx={{ flex: 1 }} />
        <Button
          onClick={() => {
            engine.stopBake();
          }}
        >
          Cancel
        </Button>
      </Stack>
    );
  }
  return (
    <Stack direction="row" sx={{ alignItems: 'center', gap: 1, fontSize: 12.5, minHeight: 30 }}>
      <Box sx={{ flex: 1, color: stale ? COLOURS.coral : bake ? COLOURS.glass : COLOURS.faint }}>
        {bake
          ? `Baked, ${(bake.bytes / 2 ** 20).toFixed(0)} MB${stale ? '; stale: something it depends on has changed' : ''}`
          : 'Simulated live'}
      </Box>
      {bake && <Button onClick={() => void removeBake(engine, swarm)}>Delete the bake</Button>}
      <Button
        variant="outlined"
        disabled={making !== null}
        onClick={() => {
          makeBake(engine, swarm);
        }}
      >
        {bake ? 'Bake again' : 'Bake'}
      </Button>
    </Stack>
  );
}

function allFiles(stock: ReturnType<typeof usePiece>['stock']) {
  const none = { type: 'cloud' as const, positions: new Float32Array(0) };
  return new Map(
    stock.flatMap((entry) => {
      const named = fileNamed(entry);
      const words = 'words' in entry.source ? [[wordsKey(entry), none] as const] : [];
      return named ? [[named.hash, none] as const, ...words] : words;
    }),
  );
}
