/** The host's own that kernel and core use beyond the language; every host of ours has it. */
declare class TextEncoder {
  encode(text: string): Uint8Array<ArrayBuffer>;
}
declare class TextDecoder {
  decode(bytes: Uint8Array): string;
}
declare function structuredClone<T>(value: T): T;
declare namespace WebAssembly {
  interface Module {
    readonly [Symbol.toStringTag]: string;
  }
  const Module: new (bytes: Uint8Array<ArrayBuffer>) => Module;
  class Instance {
    constructor(module: Module);
    readonly exports: Record<string, unknown>;
  }
  interface Memory {
    readonly buffer: ArrayBuffer;
    grow(pages: number): number;
  }
}
