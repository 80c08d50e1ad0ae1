import { Box, Flex, Text } from '@chakra-ui/react';
import { type Click, forInstrument, instrumentOf } from '@isochron/core/material';
import { type SingleOnset, TempoSchema } from '@isochron/core/schema';
import { clicksInBar } from '@isochron/core/score';
import { useEffect, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { usePassageWriter } from '../../api/queries/passages';
import { useSettings } from '../../api/settings';
import { Action } from '../../app/Action';
import { ChoiceField, NumberField } from '../../app/fields';
import { Notice } from '../../app/Notice';
import { PageTitle } from '../../app/Page';
import { playerMessage } from '../../app/report-error';
import { usePageKeys } from '../../app/use-page-keys';
import { type AudioEngine, openEngine } from '../../audio/engine';
import type { OpenInput } from '../../audio/inputs/input';
import { MIDI } from '../../audio/inputs/midi';
import { newPassageId } from './new-id';
import { useScores } from './use-scores';

const METERS = {
  '4/4': { count: 4, unit: 4 },
  '3/4': { count: 3, unit: 4 },
  '2/4': { count: 2, unit: 4 },
  '5/4': { count: 5, unit: 4 },
  '7/4': { count: 7, unit: 4 },
  '2/2': { count: 2, unit: 2 },
  '3/2': { count: 3, unit: 2 },
  '3/8': { count: 3, unit: 8 },
  '5/8': { count: 5, unit: 8 },
  '6/8': { count: 6, unit: 8 },
  '7/8': { count: 7, unit: 8 },
  '9/8': { count: 9, unit: 8 },
  '12/8': { count: 12, unit: 8 },
} as const;
/** Where the hands may be told apart: the lowest key of the right one, by MIDI. */
const SPLITS = { one: null, C3: 48, F3: 53, A3: 57, C4: 60, E4: 64, G4: 67, C5: 72 } as const;
type SplitName = keyof typeof SPLITS;
const SPLIT_CHOICES = (Object.keys(SPLITS) as SplitName[]).map((name) => ({
  value: name,
  name: name === 'one' ? 'no, one staff' : `left below ${name}`,
}));
type MeterName = keyof typeof METERS;
/** The click goes on for so many bars at most. */
const MAX_BARS = 200;
const LEAD_S = 0.4;

interface Running {
  engine: AudioEngine;
  input: OpenInput;
  downbeatS: number;
}

/** Playing a passage in by MIDI against a click: what is played is set to the nearest places of the beat. */
export const RecordPage = () => {
  const { settings } = useSettings();
  const { store } = usePassageWriter();
  const scores = useScores();
  const navigate = useNavigate();
  const [tempoBpm, setTempoBpm] = useState(60);
  const [meterName, setMeterName] = useState<MeterName>('4/4');
  const [chosenSplit, setSplitName] = useState<SplitName | null>(null);
  const plays = instrumentOf(settings.playsId, settings.instruments);
  const splitName = chosenSplit ?? (plays.clefs.length === 2 ? 'C4' : 'one');
  const [count, setCount] = useState(0);
  const [state, setState] = useState<'idle' | 'opening' | 'recording' | 'writing'>('idle');
  const [trouble, setTrouble] = useState('');
  const running = useRef<Running | null>(null);
  const played = useRef<SingleOnset[]>([]);

  const close = async () => {
    const over = running.current;
    running.current = null;
    over?.input.close();
    await over?.engine.close();
  };
  // biome-ignore lint/correctness/useExhaustiveDependencies: leaving the page closes what is open, once.
  useEffect(() => () => void close(), []);

  const begin = async () => {
    setTrouble('');
    setState('opening');
    played.current = [];
    setCount(0);
    try {
      const engine = await openEngine(new MessageChannel().port1, settings);
      const input = await MIDI.open({
        engine,
        settings,
        onOnset: (onset) => {
          const { timeS, levelDb, pitch } = onset;
          played.current.push({ timeS, levelDb, pitch });
          setCount(played.current.length);
        },
        onRelease: (pitch, timeS) => {
          const note = played.current.findLast((one) => one.pitch === pitch && one.offS === undefined);
          if (note) note.offS = timeS;
        },
        onLost: (message) => setTrouble(message),
      });
      const perBar = clicksInBar(METERS[meterName]);
      const beatS = 60 / tempoBpm;
      const startS = engine.nowS() + LEAD_S;
      const downbeatS = startS + perBar * beatS;
      const clicks = Array.from(
        { length: (MAX_BARS + 1) * perBar },
        (_, k): Click => ({
          timeS: startS + k * beatS,
          kind: k % perBar === 0 ? 'bar' : 'beat',
        }),
      );
      engine.playClicks(clicks);
      running.current = { engine, input, downbeatS };
      setState('recording');
    } catch (error) {
      setTrouble(playerMessage(error));
      setState('idle');
    }
  };

  const end = async () => {
    const over = running.current;
    if (!over) return;
    const latencyS = over.engine.guessedLatencyS();
    const shift = (timeS: number) => timeS - over.downbeatS - latencyS;
    const notes = played.current.map((note) => ({
      ...note,
      timeS: shift(note.timeS),
      ...(note.offS === undefined ? {} : { offS: shift(note.offS) }),
    }));
    setState('writing');
    await close();
    try {
      const id = newPassageId('played-in');
      const { passage, simplified } = await scores.readPlayed(
        { notes, bpm: tempoBpm, meter: METERS[meterName], splitAt: SPLITS[splitName] },
        id,
      );
      await store(forInstrument({ ...passage, title: 'Played in' }, plays), 0);
      await navigate(`/material/${id}`, { state: { simplified } });
    } catch (error) {
      setTrouble(playerMessage(error));
      setState('idle');
    }
  };
  const toggle = () => void (state === 'recording' ? end() : state === 'idle' ? begin() : undefined);
  usePageKeys({ Enter: toggle, PageDown: toggle, Escape: () => void (state === 'recording' && end()) });
  return (
    <>
      <PageTitle title="Play one in">
        One bar of count-in, then play your MIDI instrument against the click; an upbeat may begin in the count-in. It is
        written at the nearest places of the beat, and can be corrected as text.
      </PageTitle>
      <Notice>{trouble}</Notice>
      <Flex gap="14px 26px" align="flex-end" flexWrap="wrap">
        <NumberField label="Tempo of the click" value={tempoBpm} schema={TempoSchema} onChange={setTempoBpm} />
        <ChoiceField<MeterName>
          label="Meter"
          width="110px"
          value={meterName}
          choices={(Object.keys(METERS) as MeterName[]).map((name) => ({ value: name, name }))}
          onChange={setMeterName}
        />
        <ChoiceField<SplitName>
          label="Two hands"
          width="180px"
          value={splitName}
          choices={SPLIT_CHOICES}
          onChange={setSplitName}
        />
        <Action
          onClick={toggle}
          loading={state === 'opening' || state === 'writing'}
          loadingText={state === 'writing' ? 'Writing it down …' : 'Opening …'}
        >
          {state === 'recording' ? 'That is all' : 'Begin'}
        </Action>
      </Flex>
      {state === 'recording' && (
        <Box marginTop="26px" role="status">
          <Text fontFamily="heading" fontSize="64px" lineHeight="1">
            {count}
          </Text>
          <Text color="quiet">notes so far. Enter or Esc: that is all.</Text>
        </Box>
      )}
    </>
  );
};
