import { Box, Flex, Link, Text } from '@chakra-ui/react';
import type { InputKind } from '@isochron/core/schema';
import { Ear } from 'lucide-react';
import { useCallback, useEffect, useRef, useState } from 'react';
import { Link as RouterLink } from 'react-router';
import { useSettings } from '../../api/settings';
import { Action } from '../../app/Action';
import { ChoiceCards } from '../../app/ChoiceCards';
import { LevelBar } from '../../app/LevelBar';
import { Notice } from '../../app/Notice';
import { playerMessage } from '../../app/report-error';
import { type InputCheck, openInputCheck } from '../../audio/input-check';
import { INPUTS, inputOf } from '../../audio/inputs/inputs';

/** Which input hears the take, and whether it hears anything: before the first note is played. */
export const InputChoice = ({ opening }: { opening: boolean }) => {
  const { settings, change } = useSettings();
  const check = useRef<InputCheck | null>(null);
  const [listening, setListening] = useState(false);
  const [peakDb, setPeakDb] = useState<number | null>(null);
  const [notes, setNotes] = useState(0);
  const [trouble, setTrouble] = useState('');
  const source = inputOf(settings.input);

  const stop = useCallback(() => {
    void check.current?.close();
    check.current = null;
    setListening(false);
    setPeakDb(null);
    setNotes(0);
  }, []);
  useEffect(() => stop, [stop]);
  // The take opens the input for itself.
  useEffect(() => {
    if (opening) stop();
  }, [opening, stop]);

  const listen = async () => {
    setTrouble('');
    setListening(true);
    try {
      check.current = await openInputCheck({
        settings,
        onLevel: setPeakDb,
        onNote: () => setNotes((count) => count + 1),
        onLost: (message) => {
          setTrouble(message);
          stop();
        },
      });
    } catch (error) {
      setTrouble(playerMessage(error));
      setListening(false);
    }
  };

  return (
    <Box>
      <ChoiceCards<InputKind>
        label="Heard by"
        value={settings.input}
        choices={INPUTS.map(({ kind, name, about }) => ({ value: kind, name, about }))}
        onChange={(input) => {
          stop();
          setTrouble('');
          void change({ input });
        }}
      />
      <Flex gap="6px 12px" align="center" marginTop="6px" flexWrap="wrap">
        {source.shows !== 'nothing' && (
          <Action quiet fontSize="15px" onClick={() => (listening ? stop() : void listen())}>
            <Ear size={16} aria-hidden />
            {listening ? 'Stop listening' : 'Check the input'}
          </Action>
        )}
        {listening && source.shows === 'level' && peakDb !== null && <LevelBar peakDb={peakDb} />}
        {listening && source.shows === 'notes' && (
          <Text role="status" fontSize="15px">
            {notes === 0 ? 'Play a note …' : `${notes} heard`}
          </Text>
        )}
        <Link asChild color="now" textDecoration="underline" fontSize="15px">
          <RouterLink to="/setup/input">More in Setup</RouterLink>
        </Link>
      </Flex>
      <Notice>{trouble}</Notice>
    </Box>
  );
};
