/** What kernel and core use beyond the language; every host of ours has it. */
declare class TextEncoder {
  encode(text: string): Uint8Array<ArrayBuffer>;
}
declare function structuredClone<T>(value: T): T;
