import { Flex, Text } from '@chakra-ui/react';
import { barBeats, loopSpan } from '@isochron/core/material';
import { bisectCenter } from 'd3-array';
import { useState } from 'react';
import { useParams } from 'react-router';
import { useAccompaniment, useChangeAccompaniment } from '../../api/accompaniments';
import { Action } from '../../app/Action';
import { Notice } from '../../app/Notice';
import { PageTitle, Part } from '../../app/Page';
import { usePageKeys } from '../../app/use-page-keys';
import { BeatActions } from './BeatActions';
import { BeatFinding } from './BeatFinding';
import { BeatLine } from './BeatLine';
import { FIRST_HEARING, HearingControls } from './HearingControls';
import { PlayWith } from './PlayWith';
import { lengthWords, placeWords } from './play-along-words';
import { RemoveRecording } from './RemoveRecording';
import { useBeatEditing } from './use-beat-editing';
import { useBeatFinder } from './use-beats';
import { usePeaks } from './use-peaks';
import { usePlayback } from './use-playback';
import { useView } from './use-view';

/** One recording to play along with: heard at any speed, its beats corrected, and on to the Bench with it. */
export const PlayAlongPage = () => {
  const { accompanimentId = '' } = useParams();
  const { accompaniment, message } = useAccompaniment(accompanimentId);
  const { change, trouble: notKept } = useChangeAccompaniment(accompanimentId);
  const { peaks, trouble: unheard } = usePeaks(accompanimentId);
  const [hearing, setHearing] = useState(FIRST_HEARING);
  const editing = useBeatEditing(accompaniment, change);
  const { selected } = editing;
  const finder = useBeatFinder(accompaniment, (found) => {
    editing.edit(found);
    editing.select(found.timesS.length ? 0 : null);
  });
  const beats = accompaniment?.beats ?? null;
  const lengthS = accompaniment?.lengthS ?? 1;
  const { speedPct, withClick, spanS } = hearing;
  const loop = beats && hearing.loop ? loopSpan(beats, hearing.loop, lengthS) : null;
  const playback = usePlayback(accompanimentId, beats, lengthS, { rate: speedPct / 100, loop, withClick });
  const { placeS, state } = playback;
  const viewS = useView(placeS, spanS);

  const select = (beat: number) => {
    editing.select(beat);
    const timeS = beats?.timesS[beat];
    if (timeS !== undefined && state !== 'sounding') playback.goTo(timeS);
  };
  const tap = () => {
    const heardS = playback.heardAt(performance.now());
    if (heardS === null) void playback.play(placeS);
    else editing.tap(heardS);
  };
  const takeTaps = () => {
    editing.takeTaps();
    playback.stop();
  };
  const toggle = () => (state === 'silent' ? void playback.play(placeS) : playback.stop());
  usePageKeys({ p: toggle, Home: () => playback.goTo(0) });

  if (message) return <Notice>{message}</Notice>;
  if (!accompaniment) return <Text>Fetching the recording …</Text>;

  return (
    <>
      <PageTitle
        title={accompaniment.title}
      >{`${lengthWords(lengthS)} long. P plays and stops, the arrows go from beat to beat.`}</PageTitle>
      <Notice>{notKept || unheard || playback.trouble || finder.trouble}</Notice>
      <BeatFinding finder={finder} isKnown={beats !== null} />
      <BeatLine
        peaks={peaks}
        beats={beats}
        fromS={viewS}
        toS={viewS + spanS}
        loop={loop}
        selected={selected}
        placeS={placeS}
        onPoint={(timeS) => {
          if (beats?.timesS.length && state !== 'sounding') select(bisectCenter(beats.timesS, timeS));
          else playback.goTo(timeS);
        }}
      />
      <Text color="quiet" role="status" data-testid="place">
        {state !== 'sounding' && beats && selected !== null && beats.timesS[selected] !== undefined
          ? `At ${placeWords(selected, beats.beatsPerBar, beats.firstBarBeat)}: ${beats.timesS[selected]?.toFixed(3)} s.`
          : `At ${placeS.toFixed(1)} s.`}
      </Text>
      <HearingControls
        choice={hearing}
        onChange={(part) => setHearing({ ...hearing, ...part })}
        bars={beats ? barBeats(beats).length : 0}
        state={state}
        onToggle={toggle}
      />
      {beats && (
        <>
          <Part title="Its beats">
            <BeatActions
              beats={beats}
              selected={selected}
              onSelect={select}
              onChange={editing.edit}
              onUndo={editing.undo}
              onTap={tap}
              tapping={editing.taps.length}
              onTapped={takeTaps}
            />
          </Part>
          <Part title="Play with it">
            <PlayWith accompaniment={accompaniment} beats={beats} />
          </Part>
        </>
      )}
      <Text marginTop="18px" color="quiet" fontSize="16px">
        Keep it moderately loud, above all in headphones.
      </Text>
      <Flex gap="12px" marginTop="18px" flexWrap="wrap">
        {beats && (
          <Action quiet onClick={finder.again}>
            Listen for its beats again
          </Action>
        )}
        <RemoveRecording accompanimentId={accompaniment.id} />
      </Flex>
    </>
  );
};
