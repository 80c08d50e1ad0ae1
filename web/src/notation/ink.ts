import type { Renderer } from 'vexflow/bravura';

export type Context = ReturnType<Renderer['getContext']>;

// Follows the appearance without being drawn again.
export const COLOUR = 'currentColor';
export const INK = { fillStyle: COLOUR, strokeStyle: COLOUR };
