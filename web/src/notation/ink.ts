import type { Renderer } from 'vexflow/bravura';

export type Context = ReturnType<Renderer['getContext']>;

// Follows the appearance without being drawn again.
export const COLOUR = 'currentColor';
export const INK = { fillStyle: COLOUR, strokeStyle: COLOUR };

/** The fonts of numbers and marks, and of words that belong to the music. */
export const SANS = "'Source Sans 3 Variable', sans-serif";
export const SERIF = "'Source Serif 4 Variable', serif";
