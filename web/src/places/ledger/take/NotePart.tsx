import { Text, Textarea } from '@chakra-ui/react';
import type { Take } from '@isochron/core/schema';
import { useEffect, useRef, useState } from 'react';
import { putNote } from '../../../api/client';
import { refetchTakes, shownTake, showTake } from '../../../api/queries/takes';
import { Part } from '../../../app/Page';
import { playerMessage } from '../../../app/report-error';

/** What is typed is stored after this pause, and when the page is left. */
const PAUSE_MS = 800;

/** The player's own words about a take; kept as they are typed. */
export const NotePart = ({ take }: { take: Take }) => {
  const [text, setText] = useState(take.note);
  const [trouble, setTrouble] = useState('');
  const stored = useRef(take.note);
  const latest = useRef(text);
  latest.current = text;
  const { id } = take;
  const store = useRef(async () => {
    const note = latest.current;
    if (note === stored.current) return;
    try {
      await putNote(id, note);
      stored.current = note;
      const shown = shownTake(id);
      if (shown) showTake({ ...shown, note });
      void refetchTakes();
      setTrouble('');
    } catch (error) {
      setTrouble(`The note is not kept yet: ${playerMessage(error)}`);
    }
  });
  // biome-ignore lint/correctness/useExhaustiveDependencies: each change of the text waits its own pause.
  useEffect(() => {
    const wait = setTimeout(() => void store.current(), PAUSE_MS);
    return () => clearTimeout(wait);
  }, [text]);
  useEffect(() => {
    const { current } = store;
    const leave = () => void current();
    window.addEventListener('pagehide', leave);
    return () => {
      window.removeEventListener('pagehide', leave);
      leave();
    };
  }, []);
  return (
    <Part title="Your note" id="note">
      <Textarea
        aria-label="Your note on this take"
        value={text}
        maxLength={4000}
        rows={2}
        maxWidth="80ch"
        borderColor="quiet"
        borderRadius="control"
        placeholder="What you noticed, what helped."
        onChange={(event) => setText(event.target.value)}
      />
      <Text display="none" _print={{ display: 'block' }} whiteSpace="pre-wrap">
        {text}
      </Text>
      <Text role="status" fontSize="16px">
        {trouble}
      </Text>
    </Part>
  );
};
