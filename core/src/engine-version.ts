/** Raised whenever the measuring engine's figures may change, and stored with each take. */
export const ENGINE_VERSION = '9';
