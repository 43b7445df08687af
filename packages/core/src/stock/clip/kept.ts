/** Finds things by a key; the `most` that were asked for last are at hand. */
export function kept<K, V>(most: number, find: (key: K) => V): (key: K) => V {
  const known = new Map<K, V>();
  return (key) => {
    const value = known.get(key) ?? find(key);
    known.delete(key);
    known.set(key, value);
    // What could not be read is tried again.
    if (value instanceof Promise) value.catch(() => known.delete(key));
    for (const old of known.keys()) {
      if (known.size <= most) break;
      known.delete(old);
    }
    return value;
  };
}
