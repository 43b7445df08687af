import { optionsOf } from '@vast-swarm/core/formats';
import { usePiece } from '../../store/store';
import { NamedSelect } from '../../fields/NamedSelect';

interface Props {
  title: string;
  value: string;
  path: (string | number)[];
  onChange: (value: string) => void;
}

/** One of the options that the dials of a control share. */
export function OptionCell({ title, value, path, onChange }: Props) {
  const piece = usePiece();
  const control = piece.controls[path[1] as number]!;
  return (
    <NamedSelect
      title={title}
      none="As each is"
      value={value}
      options={optionsOf(piece, control)}
      onChange={onChange}
    />
  );
}
