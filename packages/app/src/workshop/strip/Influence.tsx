import { Box } from '@mui/material';
import { influenceOf } from '@vast-swarm/core';
import { pieceActions } from '../../store/pieceSlice';
import { useAppDispatch, usePiece } from '../../store/store';
import { COLOURS } from '../../theme';
import { NumberField } from '../sheet/NumberField';

const MULTIPLIER = { min: -100, max: 100, unit: '' };

/** Forces and colliders against swarms: how much each is felt. */
export function Influence() {
  const piece = usePiece();
  const dispatch = useAppDispatch();
  const { swarms } = piece;
  const rows = [...piece.forces, ...piece.colliders];
  if (rows.length === 0 || swarms.length === 0) {
    return (
      <Box sx={{ p: 2, color: COLOURS.faint }}>
        With a swarm and a force or collider, this grid tells how much each swarm feels each of
        them; 0 switches it off.
      </Box>
    );
  }
  return (
    <Box sx={{ px: 2, py: 1, overflow: 'auto', height: '100%' }}>
      <Box
        component="table"
        sx={{
          borderSpacing: 0,
          '& td, & th': { px: 1, py: '2px', textAlign: 'right', fontWeight: 400 },
        }}
      >
        <thead>
          <tr>
            <th />
            {swarms.map((s) => (
              <th key={s.id} scope="col" style={{ color: COLOURS.faint }}>
                {s.name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((f) => (
            <tr key={f.id}>
              <th scope="row" style={{ textAlign: 'left', color: COLOURS.faint }}>
                {f.name}
              </th>
              {swarms.map((s) => (
                <td key={s.id}>
                  <NumberField
                    label={`${s.name} feels ${f.name}`}
                    value={influenceOf(piece, f.id, s.id)}
                    spec={MULTIPLIER}
                    rate={piece.frame.rate}
                    onChange={(value) =>
                      dispatch(
                        pieceActions.set({
                          path: ['influence', f.id, s.id],
                          value,
                          label: 'Influence',
                          merge: `${f.id}.${s.id}`,
                        }),
                      )
                    }
                    onSettle={() => dispatch(pieceActions.settled())}
                  />
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </Box>
    </Box>
  );
}
