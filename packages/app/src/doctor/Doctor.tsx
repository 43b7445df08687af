import { Box, Button } from '@mui/material';
import { useEffect, useState } from 'react';
import { inEffect, type Part, type Piece, type Swarm } from '@vast-swarm/core/piece';
import type { Census, MediumCensus } from '@vast-swarm/core/play';
import type { EngineClient } from '../engine/client';
import { useEngine } from '../engine/EngineContext';
import { showAmount } from '../fields/amount';
import { pieceActions } from '../store/pieceSlice';
import { useApp, useAppDispatch, usePiece } from '../store/store';
import { COLOURS, MONO } from '../ui/theme';
import { diagnose, type Cause } from './diagnose';
import { diagnoseMedium } from './diagnoseMedium';

const STEPS: [keyof Census, string][] = [
  ['born', 'born so far'],
  ['alive', 'alive now'],
  ['inFrame', 'inside the camera'],
  ['largeEnough', 'half a pixel or larger'],
  ['brightEnough', 'brighter than one step'],
];

/** Milliseconds between two looks. */
const EVERY = 700;

const MEDIUM_STEPS: [keyof MediumCensus, string][] = [
  ['cells', 'cells'],
  ['moving', 'moving'],
  ['filled', 'with something in them'],
  ['lit', 'brighter than one step'],
];

/** Why a swarm or a medium is not seen as expected: where the count falls, why, and what mends it. */
export function Doctor() {
  const piece = usePiece();
  const selection = useApp((s) => s.piece.selection);
  const medium =
    selection?.list === 'media' ? piece.media.find((m) => m.id === selection.id) : undefined;
  if (medium) return <MediumDoctor piece={piece} medium={medium} />;
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

type Ask<T> = (engine: EngineClient, id: string) => Promise<T | null>;

const swarmCensus: Ask<Census> = (engine, id) => engine.census(id);
const mediumCensus: Ask<MediumCensus> = (engine, id) => engine.mediumCensus(id);

/** A count, taken now and again; null until it is known. */
function useCounted<T>(ask: Ask<T>, id: string): T | null {
  const engine = useEngine();
  const [found, setFound] = useState<T | null>(null);
  useEffect(() => {
    let current = true;
    const look = (): void =>
      void ask(engine, id).then((c) => {
        if (current) setFound(c);
      });
    look();
    const timer = setInterval(look, EVERY);
    return () => {
      current = false;
      clearInterval(timer);
    };
  }, [engine, ask, id]);
  return found;
}

function SwarmDoctor({ piece, swarm }: { piece: Piece; swarm: Swarm }) {
  const engine = useEngine();
  const notices = useApp((s) => s.tools.notices);
  const census = useCounted(swarmCensus, swarm.id);
  if (!census) return null;
  const shown = { frame: engine.place, exact: engine.report?.exact ?? true };
  return (
    <Findings
      title={`${swarm.name}, from birth to the picture`}
      name={swarm.name}
      counts={STEPS.map(([key, title]) => ({ title, count: census[key], bar: key !== 'born' }))}
      most={Math.max(1, census.alive)}
      causes={diagnose(piece, swarm, census, shown, notices)}
    />
  );
}

const NOTHING: MediumCensus = { cells: 0, moving: 0, filled: 0, lit: 0 };

function MediumDoctor({ piece, medium }: { piece: Piece; medium: Part }) {
  const notices = useApp((s) => s.tools.notices);
  const census = useCounted(mediumCensus, medium.id) ?? NOTHING;
  return (
    <Findings
      title={`${medium.name}, cell by cell`}
      name={medium.name}
      counts={MEDIUM_STEPS.map(([key, title]) => ({ title, count: census[key], bar: true }))}
      most={Math.max(1, census.cells)}
      causes={diagnoseMedium(piece, medium, census, notices)}
    />
  );
}

interface Found {
  title: string;
  name: string;
  counts: readonly { title: string; count: number; bar: boolean }[];
  /** The count of a whole bar. */
  most: number;
  causes: readonly Cause[];
}

function Findings({ title, name, counts, most, causes }: Found) {
  const engine = useEngine();
  const dispatch = useAppDispatch();
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
        aria-label={title}
        sx={{ fontSize: 12.5, '& td': { py: '2px', pr: 1 } }}
      >
        <tbody>
          {counts.map(({ title: what, count, bar }) => (
            <tr key={what}>
              <Box component="td" sx={{ fontFamily: MONO, textAlign: 'right' }}>
                {showAmount(count, true)}
              </Box>
              <td>{what}</td>
              <td>
                <Box
                  sx={{
                    height: 6,
                    width: bar ? Math.round((120 * count) / most) : 0,
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
          <Box sx={{ color: COLOURS.glass }}>{name} is seen as it should be.</Box>
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
