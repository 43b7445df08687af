import { PlainSelect } from '../ui/PlainSelect';

interface Props<T extends string> {
  label: string;
  value: T;
  options: Readonly<Record<T, string>>;
  onChange: (value: T) => void;
}

const SMALL = { fontSize: 12 };

/** A choice in a crowded row. */
export function SmallSelect<T extends string>({ options, ...props }: Props<T>) {
  const all = (Object.entries(options) as [T, string][]).map(([value, title]) => {
    return { value, title };
  });
  return <PlainSelect {...props} options={all} style={SMALL} />;
}
