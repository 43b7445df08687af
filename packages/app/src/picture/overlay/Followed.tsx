import { Box } from '@mui/material';
import { useEffect, useState } from 'react';
import { useEngine } from '../../engine/EngineContext';
import type { FollowReport } from '../../engine/messages';
import { useApp } from '../../store/store';
import { COLOURS, MONO } from '../../ui/theme';
import { showAmount } from '../../fields/amount';

/** A ring round the followed particle, and what it reads. */
export function Followed({ size }: { size: { width: number; height: number } }) {
  const engine = useEngine();
  const [report, setReport] = useState<FollowReport | null>(engine.followed);
  const name = useApp((s) => s.piece.piece!.swarms.find((p) => p.id === report?.swarm)?.name);
  useEffect(
    () =>
      engine.subscribe(() => {
        setReport(engine.followed);
      }),
    [engine],
  );
  if (!report) return null;
  const [x, y] = [report.x * size.width, report.y * size.height];
  const rows: [string, string][] = [
    ['particle', `${name ?? ''} ${String(report.id)}`],
    ['age', `${showAmount(report.age)} of ${showAmount(report.life)} s`],
    ['speed', `${showAmount(report.speed)} m/s`],
    ['size', `${showAmount(report.size)} m`],
    ['opacity', showAmount(report.opacity)],
    ['place', report.position.map((c) => c.toFixed(2)).join('  ')],
  ];
  return (
    <>
      <svg
        width={size.width}
        height={size.height}
        aria-hidden
        style={{ position: 'absolute', inset: 0, pointerEvents: 'none' }}
      >
        <circle cx={x} cy={y} r={11} fill="none" stroke={COLOURS.amber} strokeWidth={1.6} />
      </svg>
      <Box
        role="status"
        aria-label="Followed particle"
        sx={{
          position: 'absolute',
          left: 8,
          bottom: 8,
          px: 1,
          py: 0.5,
          fontSize: 11.5,
          bgcolor: 'rgba(10,18,20,0.78)',
          borderRadius: 0.5,
          pointerEvents: 'none',
          fontFamily: MONO,
          display: 'grid',
          gridTemplateColumns: 'auto auto',
          columnGap: 1,
        }}
      >
        {rows.map(([key, value]) => [
          <Box key={key} sx={{ color: COLOURS.faint }}>
            {key}
          </Box>,
          <span key={`${key} value`}>{value}</span>,
        ])}
      </Box>
    </>
  );
}
