import type { BuildOptions } from 'esbuild';

export const FOR_NODE: BuildOptions;
export function copyTransforms(folder: string): void;
export function bundled(name: 'cli' | 'server', entry: string): string;
export function bundle(name: 'cli' | 'server'): void;
