/** The part of the PFFFT build that is used here; the package ships no types. Addresses are bytes in its memory. */
declare module '@echogarden/pffft-wasm/simd' {
  export interface Pffft {
    /** The build's memory; read anew after every allocation, since it may have grown. */
    HEAPF32: Float32Array;
    _pffft_new_setup(size: number, kind: 0 | 1): number;
    _pffft_aligned_malloc(bytes: number): number;
    _pffft_transform_ordered(setup: number, input: number, output: number, work: number, direction: 0 | 1): void;
  }
  export default function load(): Promise<Pffft>;
}
