import { Box } from '@chakra-ui/react';
import { memo, useEffect, useRef, useState } from 'react';
import { drawNotation, type NotationProps } from './draw-notation';
import { notationWords } from './notation-words';
import { notationHeight } from './staff-places';

/** The notation above a system of the strip, each note over its column. Drawn by VexFlow; loaded when first needed. */
const Notation = memo((props: NotationProps & { title: string }) => {
  const target = useRef<HTMLDivElement>(null);
  const [ready, setReady] = useState(false);
  useEffect(() => {
    // Drawn before its font is there, notation would be empty boxes.
    void Promise.all([document.fonts.load('30px Bravura'), document.fonts.load('14px "Source Sans 3 Variable"')]).then(() =>
      setReady(true),
    );
  }, []);
  useEffect(() => {
    if (!ready || !target.current) return;
    try {
      drawNotation(target.current, props);
    } catch (error) {
      console.error(error);
      // What the package cannot draw must not take the page with it: the text alternative says the notes.
      target.current.textContent = 'These bars cannot be drawn; their notes can be played all the same.';
    }
  }, [ready, props]);
  const { title, grid, system } = props;
  return (
    <Box
      ref={target}
      color="ink"
      height={`${notationHeight(grid)}px`}
      overflow="hidden"
      role="img"
      aria-label={`Notation of ${title}: ${notationWords(grid, system.from, system.to)}`}
    />
  );
});

export default Notation;
