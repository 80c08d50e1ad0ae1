import { chakra } from '@chakra-ui/react';
import type { ReactNode } from 'react';

const Summary = chakra('summary', {
  base: { cursor: 'pointer', fontSize: '18px', paddingY: '6px', '&:hover': { color: 'now' } },
});

/** What is there for who wants it: a line that opens. */
export const Folded = ({ title, children }: { title: string; children: ReactNode }) => (
  <details>
    <Summary>{title}</Summary>
    {children}
  </details>
);
