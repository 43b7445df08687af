import { Box, Checkbox } from '@mui/material';
import { influenceOf, partsThat, type Part, type Swarm } from '@vast-swarm/core/piece';
import { pieceActions } from '../store/pieceSlice';
import { useAppDispatch, usePiece } from '../store/store';
import { COLOURS } from '../ui/theme';
import { Empty } from '../ui/Empty';
import { PartChooser } from '../lineUp/PartChooser';
import { NumberField } from '../fields/NumberField';

const MULTIPLIER = { min: -100, max: 100, unit: '' };

/** Whether a part is either felt or not: there is no half of a wall. */
function isWhole({ dials }: Part): boolean {
  return dials.acts === 'solid' || (dials.acts === 'zone' && dials.does === 'die');
}

/** A swarm or a medium. */
type Feeling = Pick<Swarm, 'id' | 'name'>;

function Cell({ part, by }: { part: Part; by: Feeling }) {
  const piece = usePiece();
  const dispatch = useAppDispatch();
  const value = influenceOf(piece, part.id, by.id);
  const label = `${by.name} feels ${part.name}`;
  const set = (to: number): void => {
    const path = ['influence', part.id, by.id];
    const merge = `${part.id}.${by.id}`;
    dispatch(pieceActions.set({ path, value: to, label: 'Influence', merge }));
  };
  const settle = () => dispatch(pieceActions.settled());
  if (isWhole(part)) {
    return (
      <Checkbox
        size="small"
        sx={{ p: 0 }}
        checked={value > 0}
        slotProps={{ input: { 'aria-label': label } }}
        onChange={(_, on) => {
          set(on ? 1 : 0);
          settle();
        }}
      />
    );
  }
  return (
    <NumberField
      {...{ label, value }}
      spec={MULTIPLIER}
      rate={piece.frame.rate}
      onChange={set}
      onSettle={settle}
    />
  );
}

/** Forces and colliders against swarms and media: how much each is felt; solids are felt or not. */
export function Influence() {
  const piece = usePiece();
  const [rows, columns] = [partsThat(piece, 'felt'), partsThat(piece, 'feels')];
  if (rows.length === 0 || columns.length === 0) {
    return (
      <Empty
        action={
          <>
            {columns.length === 0 && <PartChooser list="swarms" inWords />}
            {rows.length === 0 && <PartChooser list="forces" inWords />}
          </>
        }
        sx={{ p: 2 }}
      >
        With a swarm or a medium and a force or collider, this grid tells how much each of those is
        felt; 0 switches it off.
      </Empty>
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
            {columns.map((s) => (
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
              {columns.map((s) => (
                <td key={s.id}>
                  <Cell part={f} by={s} />
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </Box>
    </Box>
  );
}
