/** The part of WebAssembly that is used here; every engine has it, but the types of the language do not. */
declare namespace WebAssembly {
  interface Memory {
    readonly buffer: ArrayBuffer;
  }
  function instantiate(bytes: Uint8Array, imports?: object): Promise<{ instance: { exports: unknown } }>;
}
