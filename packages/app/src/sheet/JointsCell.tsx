import { Autocomplete, TextField } from '@mui/material';
import { kindOf, type JointsDial } from '@vast-swarm/core/kinds';
import { useHeardJoints } from '../inputs/LiveContext';
import { usePiece } from '../store/store';
import { usePerforming } from '../answers/usePerforming';

interface Props {
  spec: JointsDial;
  value: string[];
  path: (string | number)[];
  onChange: (value: string[]) => void;
}

/** Joints of the performer that the part names, by their names. */
export function JointsCell({ spec, value, path, onChange }: Props) {
  const piece = usePiece();
  const performer = path.slice(0, -1).reduce<unknown>((at, key) => (at as never)[key], piece);
  const named = (performer as Record<string, unknown>)[spec.performer];
  const part = piece.performers.find((p) => p.id === named);
  const performing = usePerforming(part);
  // Before anything was recorded, those of who is there.
  const heard = useHeardJoints();
  const live = part && kindOf('performers', part.kind).records;
  const options = performing ? [...performing.joints] : live ? heard : [];
  return (
    <Autocomplete
      multiple
      size="small"
      options={options}
      value={value}
      onChange={(_, next) => {
        // A dial of one takes the last that was chosen.
        onChange(next.slice(-spec.most));
      }}
      noOptionsText={toldOf(part !== undefined, options.length > 0, live !== undefined)}
      renderInput={(params) => (
        <TextField
          {...params}
          variant="standard"
          slotProps={{
            ...params.slotProps,
            htmlInput: { ...params.slotProps.htmlInput, 'aria-label': spec.title },
          }}
          placeholder={value.length > 0 ? '' : spec.most === 1 ? 'None' : 'All'}
        />
      )}
      sx={{
        '& .MuiInputBase-root': { fontSize: 12.5 },
        '& .MuiChip-root': { height: 20, fontSize: 11.5 },
      }}
    />
  );
}

function toldOf(named: boolean, some: boolean, live: boolean): string {
  if (!named) return 'Choose a performer first';
  return some || !live ? 'No such joint' : 'Nobody is there yet: open the input of the performer';
}
