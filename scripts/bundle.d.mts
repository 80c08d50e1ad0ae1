export function bundled(name: 'cli' | 'server', entry: string): string;
export function bundle(name: 'cli' | 'server'): void;
