import { NamedSelect } from '../fields/NamedSelect';

interface Props {
  title: string;
  options: readonly { id: string; name: string }[];
  onPick: (id: string) => void;
}

/** Does something with one of some parts, which is chosen by its name and not kept. */
export function PickOne({ title, options, onPick }: Props) {
  return (
    <NamedSelect
      title={title}
      none={title}
      value=""
      options={options}
      onChange={(id) => {
        if (id) onPick(id);
      }}
    />
  );
}
