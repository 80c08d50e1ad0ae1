import { Text, Textarea } from '@chakra-ui/react';
import { Part } from '../../app/Page';
import { useEditor } from '../../stores/editor';
import { useTypedText } from './use-typed-text';

const ROWS = { least: 6, most: 16 };

/** The notes of the open passage as text, read as they are typed. */
export const NotesAsText = () => {
  const text = useEditor((editor) => editor.text);
  const unread = useEditor((editor) => editor.trouble);
  const type = useTypedText();
  return (
    <Part title="Notes as text">
      <Textarea
        aria-label="The notes as text"
        value={text}
        onChange={(event) => void type(event.target.value)}
        rows={Math.min(ROWS.most, Math.max(ROWS.least, text.split('\n').length + 1))}
        fontFamily="monospace"
        fontSize="16px"
        spellCheck={false}
        borderColor="quiet"
        borderRadius="control"
      />
      <Text role="status" minHeight="1.5em" fontWeight="600">
        {unread}
      </Text>
      <Text color="quiet" fontSize="15px" maxWidth="90ch">
        C4/8 is a note with its octave and value; what is left out stays as it was. r/4 rest, x/8 no pitch, C4+E4 chord, | bar
        line, |: :| repeat, C4/4~ tie, &gt; accent, ' short, 3:2[ … ] triplet, C4@3 finger, @R @L hand, @up @down stroke,
        &quot;Am7&quot; a chord over a note, &quot;_la-&quot; a syllable under it, @trill @fermata signs, clef=bass another
        clef.
      </Text>
    </Part>
  );
};
