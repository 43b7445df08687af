export { toAssembly } from './assembly';
export { Expr, functionOf, Graph, type Fn, type Slot } from './graph';
export { Vec3 } from './vector';
export * from './functions';
export * from './noise';
export * from './random';
export { interpret, interpretFn, type Memory } from './interpret';
export { paramWord, paramWords, PARAM_HEAD, toWasm } from './wasm';
export { ROW, toWgsl, wgslFunctions, WORKGROUP } from './wgsl';
