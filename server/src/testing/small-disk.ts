import { execFileSync } from 'node:child_process';

/** Lays a small disk of its own over an empty folder; throws where this machine does not let its user. */
export const mountSmallDisk = (folder: string, megabytes: number): void => {
  execFileSync('mount', ['-t', 'tmpfs', '-o', `size=${megabytes}m`, 'tmpfs', folder], { stdio: 'ignore' });
};

/** Takes it away again, with everything on it. */
export const unmountSmallDisk = (folder: string): void => {
  execFileSync('umount', ['-l', folder]);
};
