import { useApp } from '../store/store';
import { NamedSelect } from '../fields/NamedSelect';

interface Props {
  title: string;
  /** Meaning of an empty choice. */
  none: string;
  value: string;
  path: (string | number)[];
  onChange: (value: string) => void;
}

/** Another swarm of the piece. */
export function SwarmCell({ title, none, value, path, onChange }: Props) {
  const swarms = useApp((s) => s.piece.piece!.swarms);
  const own = path[0] === 'swarms' ? swarms[path[1] as number]?.id : undefined;
  const options = swarms.filter((s) => s.id !== own);
  return <NamedSelect {...{ title, none, value, options, onChange }} />;
}
