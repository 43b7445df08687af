import { PlainSelect } from '../ui/PlainSelect';

interface Props {
  title: string;
  /** Meaning of an empty choice. */
  none: string;
  value: string;
  options: readonly { id: string; name: string }[];
  onChange: (value: string) => void;
}

/** One of some parts of the piece, by name, or none. */
export function NamedSelect({ title, none, value, options, onChange }: Props) {
  const strange = value !== '' && !options.some(({ id }) => id === value);
  const all = [
    { value: '', title: none },
    ...options.map(({ id, name }) => ({ value: id, title: name })),
    ...(strange ? [{ value, title: value }] : []),
  ];
  return <PlainSelect label={title} {...{ value, onChange }} options={all} />;
}
