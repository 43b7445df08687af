/** A name of a file, from one that may be anything. */
export function fileNameOf(name: string): string {
  return (
    name
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-|-$/g, '') || 'piece'
  );
}
