/** A value that is at hand, or will be. */
export type Soon<T> = T | Promise<T>;

/** Does something with a value as soon as it is there: at once where it is. */
export function thenDo<T, R>(value: Soon<T>, next: (value: T) => Soon<R>): Soon<R> {
  return value instanceof Promise ? value.then(next) : next(value);
}

/** All of them, at once where all are there. */
export function allOf<T>(values: readonly Soon<T>[]): Soon<T[]> {
  const waiting = values.some((v) => v instanceof Promise);
  return waiting ? Promise.all(values.map((v) => Promise.resolve(v))) : (values as T[]);
}
