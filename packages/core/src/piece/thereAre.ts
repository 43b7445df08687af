/**
 * The names that there are in place of one that is not, in words.
 *
 * @param most so many names are told, and how many more there are
 */
export function thereAre(names: readonly string[], most = Infinity): string {
  if (names.length === 0) return 'there are none';
  const more = names.length - most;
  return `there are ${names.slice(0, most).join(', ')}${more > 0 ? ` and ${String(more)} more` : ''}`;
}
