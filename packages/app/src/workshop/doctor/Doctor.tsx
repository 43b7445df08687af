import { Box, Button } from '@mui/material';
import { useEffect, useState } from 'react';
import { inEffect, type Census, type Piece, type Swarm } from '@vast-swarm/core';
import { useEngine } from '../../engine/EngineContext';
import { pieceActions } from '../../store/pieceSlice';
import { useApp, useAppDispatch, usePiece } from '../../store/store';
import { COLOURS, MONO } from '../../theme';
import { diagnose, type Cause } from './diagnose';

const STEPS: [keyof Census, string][] = [
  ['born', 'born so far'],
  ['alive', 'alive now'],
  ['inFrame', 'inside the camera'],
  ['largeEnough', 'half a pixel or larger'],
  ['brightEnough', 'brighter than one step'],
];

/** Milliseconds between two looks. */
const EVERY = 700;

/** Why a swarm is not seen as expected: where the count falls, why, and what mends it. */
export function Doctor() {
  const piece = usePiece();
  const selection = useApp((s) => s.piece.selection);
  const found = piece.swarms.find((s) => s.id === selection?.id) ?? piece.swarms[0];
  if (!found) {
    return (
      <Box sx={{ p: 2, color: COLOURS.faint }}>
        With a swarm, this tells how many of its particles are seen, and why not more.
      </Box>
    );
  }
  return <SwarmDoctor piece={piece} swarm={inEffect(piece, found)} />;
}

function SwarmDoctor({ piece, swarm }: { piece: Piece; swarm: Swarm }) {
  const engine = useEngine();
  const dispatch = useAppDispatch();
  const notices = useApp((s) => s.tools.notices);
  const [census, setCensus] = useState<Census | null>(null);
  useEffect(() => {
    let current = true;
    const look = (): void =>
      void engine.census(swarm.id).then((c) => {
        if (current) setCensus(c);
      });
    look();
    const timer = setInterval(look, EVERY);
    return () => {
      current = false;
      clearInterval(timer);
    };
  }, [engine, swarm.id]);
  if (!census) return null;
  const shown = { frame: engine.place, exact: engine.report?.exact ?? true };
  const causes = diagnose(piece, swarm, census, shown, notices);
  const most = Math.max(1, census.alive);
  const mend = ({ mend: edits, again }: Cause): void => {
    if (again) {
      engine.seek(engine.place);
      return;
    }
    for (const { path, value } of edits) {
      dispatch(pieceActions.set({ path, value, label: 'Mend', merge: 'mend' }));
    }
    dispatch(pieceActions.settled());
  };
  return (
    <Box sx={{ display: 'flex', gap: 4, px: 2, py: 1, height: '100%', overflowY: 'auto' }}>
      <Box
        component="table"
        aria-label={`${swarm.name}, from birth to the picture`}
        sx={{ fontSize: 12.5, '& td': { py: '2px', pr: 1 } }}
      >
        <tbody>
          {STEPS.map(([key, title]) => (
            <tr key={key}>
              <Box component="td" sx={{ fontFamily: MONO, textAlign: 'right' }}>
                {census[key].toLocaleString('en-GB').replace(/,/g, ' ')}
              </Box>
              <td>{title}</td>
              <td>
                <Box
                  sx={{
                    height: 6,
                    width: key === 'born' ? 0 : Math.round((120 * census[key]) / most),
                    bgcolor: COLOURS.glass,
                    borderRadius: 0.5,
                  }}
                />
              </td>
            </tr>
          ))}
        </tbody>
      </Box>
      <Box sx={{ flex: 1, minWidth: 0 }}>
        {causes.length === 0 && (
          <Box sx={{ color: COLOURS.glass }}>{swarm.name} is seen as it should be.</Box>
        )}
        {causes.map((cause) => (
          <Box key={cause.why} sx={{ mb: 1, display: 'flex', alignItems: 'center', gap: 1.5 }}>
            <Box sx={{ color: COLOURS.coral, fontSize: 13, flex: 1 }}>{cause.why}</Box>
            {cause.button !== '' && (
              <Button
                variant="outlined"
                onClick={() => {
                  mend(cause);
                }}
              >
                {cause.button}
              </Button>
            )}
          </Box>
        ))}
      </Box>
    </Box>
  );
}
