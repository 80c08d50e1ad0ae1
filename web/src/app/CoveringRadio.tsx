import { chakra } from '@chakra-ui/react';

/** Lies unseen over the label that it is in, so that the whole of it can be touched; the label shows its state. */
export const CoveringRadio = chakra('input', {
  base: { position: 'absolute', inset: 0, width: '100%', height: '100%', margin: 0, opacity: 0, cursor: 'inherit' },
});
