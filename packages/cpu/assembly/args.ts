// Arguments of a job, in words. The host writes them; generated/words.ts tells which is where.

// @inline
export function arg(args: usize, word: i32): i32 {
  return load<i32>(args + ((<usize>word) << 2));
}
// @inline
export function argF(args: usize, word: i32): f32 {
  return load<f32>(args + ((<usize>word) << 2));
}

/** The number that an array has for a particle; the array's address is the argument of that word. */
// @inline
export function own(args: usize, word: i32, i: i32): f32 {
  return load<f32>(<usize>arg(args, word) + ((<usize>i) << 2));
}

/** The same of whole numbers. */
// @inline
export function whole(args: usize, word: i32, i: i32): i32 {
  return load<i32>(<usize>arg(args, word) + ((<usize>i) << 2));
}
