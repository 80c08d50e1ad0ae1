import { Flex, Text } from '@chakra-ui/react';
import { type BeatsOf, barBeats, tapBeats } from '@isochron/core';
import { bisectCenter } from 'd3-array';
import { useEffect, useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { refetchAccompaniments, useAccompaniment, useChangeAccompaniment } from '../../api/accompaniments';
import { deleteAccompaniment } from '../../api/client';
import { Action } from '../../app/Action';
import { ConfirmDialog } from '../../app/ConfirmDialog';
import { Notice } from '../../app/Notice';
import { PageTitle, Part } from '../../app/Page';
import { usePageKeys } from '../../app/use-page-keys';
import { BeatActions } from './BeatActions';
import { BeatLine } from './BeatLine';
import { FIRST_HEARING, HearingControls } from './HearingControls';
import { PlayWith } from './PlayWith';
import { lengthWords, placeWords } from './play-along-words';
import { useBeatFinder } from './use-beats';
import { usePeaks } from './use-peaks';
import { usePlayback } from './use-playback';

/** One recording to play along with: heard at any speed, its beats corrected, and on to the Bench with it. */
export const PlayAlongPage = () => {
  const { accompanimentId = '' } = useParams();
  const { accompaniment, message } = useAccompaniment(accompanimentId);
  const { change, trouble: notKept } = useChangeAccompaniment(accompanimentId);
  const { peaks, trouble: unheard } = usePeaks(accompanimentId);
  const navigate = useNavigate();
  const [past, setPast] = useState<BeatsOf[]>([]);
  const [selected, setSelected] = useState<number | null>(null);
  const [viewS, setViewS] = useState(0);
  const [hearing, setHearing] = useState(FIRST_HEARING);
  const [taps, setTaps] = useState<number[]>([]);

  const beats = accompaniment?.beats ?? null;
  const lengthS = accompaniment?.lengthS ?? 1;
  const keep = (next: BeatsOf) => {
    if (accompaniment) change({ ...accompaniment, beats: next });
  };
  const edit = (next: BeatsOf) => {
    if (beats) setPast((before) => [...before, beats]);
    keep(next);
  };
  const finder = useBeatFinder(accompaniment, (found) => {
    edit(found);
    setSelected(found.timesS.length ? 0 : null);
  });
  const bars = beats ? barBeats(beats) : [];
  const startOf = (bar: number): number => beats?.timesS[bars[bar] as number] ?? lengthS;
  const { speedPct, withClick, spanS } = hearing;
  const [loopFromS, loopToS] = hearing.loop ? [startOf(hearing.loop.fromBar), startOf(hearing.loop.toBar + 1)] : [0, 0];
  // With fewer beats its bars may be gone.
  const loop = loopToS > loopFromS ? { fromS: loopFromS, toS: loopToS } : null;
  const playback = usePlayback(accompanimentId, beats, lengthS, { rate: speedPct / 100, loop, withClick });
  const { placeS, state } = playback;

  useEffect(() => {
    // The view turns over like a page when what sounds leaves it.
    setViewS((from) => (placeS >= from && placeS < from + spanS ? from : Math.max(0, placeS - 0.1 * spanS)));
  }, [placeS, spanS]);

  const undo = () => {
    const last = past.at(-1);
    if (!last) return;
    setPast(past.slice(0, -1));
    keep(last);
  };
  const select = (beat: number) => {
    setSelected(beat);
    const timeS = beats?.timesS[beat];
    if (timeS !== undefined && state !== 'sounding') playback.goTo(timeS);
  };
  const tap = () => {
    const heardS = playback.heardAt(performance.now());
    if (heardS === null) void playback.play(placeS);
    // Who taps through a loop again means the last round.
    else setTaps((before) => (heardS < (before.at(-1) ?? 0) ? [heardS] : [...before, heardS]));
  };
  const takeTaps = () => {
    if (beats) edit({ ...beats, timesS: tapBeats(beats.timesS, taps, beats.onsetsS), support: null });
    setTaps([]);
    playback.stop();
  };
  const toggle = () => (state === 'silent' ? void playback.play(placeS) : playback.stop());
  usePageKeys({
    p: toggle,
    Home: () => playback.goTo(0),
  });

  if (message) return <Notice>{message}</Notice>;
  if (!accompaniment) return <Text>Fetching the recording …</Text>;

  const remove = async () => {
    await deleteAccompaniment(accompaniment.id);
    await refetchAccompaniments();
    await navigate('/material/along');
  };
  return (
    <>
      <PageTitle
        title={accompaniment.title}
      >{`${lengthWords(lengthS)} long. P plays and stops, the arrows go from beat to beat.`}</PageTitle>
      <Notice>{notKept || unheard || playback.trouble || finder.trouble}</Notice>
      {finder.share !== null && (
        <Flex gap="16px" align="center" marginBottom="12px" role="status">
          <Text>
            {finder.share < 1
              ? `Listening for its beats: ${Math.round(100 * finder.share)} %.`
              : 'Finding the beats in what was heard …'}
          </Text>
          <Action quiet onClick={finder.stop}>
            Stop
          </Action>
        </Flex>
      )}
      {finder.share === null && !beats && (
        <Flex gap="16px" align="center" marginBottom="12px">
          <Text>Its beats are not known yet.</Text>
          <Action quiet onClick={finder.again}>
            Listen for its beats
          </Action>
        </Flex>
      )}
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
        bars={bars.length}
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
              onChange={edit}
              onUndo={past.length ? undo : null}
              onTap={tap}
              tapping={taps.length}
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
        <ConfirmDialog
          title="Remove this recording?"
          confirm="Remove it"
          onConfirm={() => void remove()}
          trigger={<Action quiet>Remove it …</Action>}
        >
          Its sound and its beats go. Takes that were played with it stay, with the beats they were measured against.
        </ConfirmDialog>
      </Flex>
    </>
  );
};
