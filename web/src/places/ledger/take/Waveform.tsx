import { Box, Flex, Text } from '@chakra-ui/react';
import type { Gap, Repetition } from '@isochron/core';
import { useEffect, useRef, useState } from 'react';
import WaveSurfer from 'wavesurfer.js';
import RegionsPlugin from 'wavesurfer.js/plugins/regions';
import { Action } from '../../../app/Action';
import { type RecordingPeaks, recordingPeaks } from '../../../audio/recording-peaks';

interface Props {
  address: string;
  /** Where the player asked to hear it from, a new one each time; waits until the sound is there. */
  wish: { fromS: number } | null;
  repetitions: readonly Repetition[];
  /** Where sound is missing. */
  gaps: readonly Gap[];
  /** A correction at the cursor; left out while none is possible. */
  onAdd(timeS: number): void;
  onRemove(timeS: number): void;
  onUndo(timeS: number): void;
}

/** Hearing begins this long before a note. */
const LEAD_S = 0.15;
const HEIGHT = 120;
const NOT_FETCHED = 'The recording cannot be fetched just now. Reload the page to try again.';
/** Pixels a second: from the whole take to single attacks. */
const ZOOMS = [0, 60, 200, 600, 2000] as const;
const STEP_S = 0.01;
const FINE_STEP_S = 0.001;

/** A colour of the theme as a canvas understands it. */
const colourOf = (element: HTMLElement, name: string) => getComputedStyle(element).getPropertyValue(`--chakra-colors-${name}`);

const clock = (timeS: number) => `${timeS.toFixed(3)} s`;

/** The take's sound with a line at every onset: zoom, walk, hear from anywhere, and correct onsets by hand. */
export const Waveform = ({ address, wish, repetitions, gaps, onAdd, onRemove, onUndo }: Props) => {
  const frame = useRef<HTMLDivElement>(null);
  const wave = useRef<WaveSurfer | null>(null);
  const regions = useRef<ReturnType<typeof RegionsPlugin.create> | null>(null);
  const [zoom, setZoom] = useState(1);
  const [ready, setReady] = useState(false);
  const [playing, setPlaying] = useState(false);
  const [cursorS, setCursorS] = useState(0);
  const cursor = useRef(0);
  const [trouble, setTrouble] = useState('');
  const [fetched, setFetched] = useState(0);

  useEffect(() => {
    const element = frame.current;
    if (!element) return;
    const plugin = RegionsPlugin.create();
    const colour = colourOf(element, 'quiet');
    const leaving = new AbortController();
    let surfer: WaveSurfer | null = null;
    const open = (long: RecordingPeaks | null) => {
      surfer = WaveSurfer.create({
        container: element,
        url: address,
        // A long recording is drawn by its peaks and heard as it comes; a short one is taken in whole.
        ...(long ? { peaks: [long.peaks], duration: long.durationS } : {}),
        height: HEIGHT,
        waveColor: colour,
        progressColor: colour,
        cursorColor: colourOf(element, 'now'),
        cursorWidth: 2,
        plugins: [plugin],
      });
      wave.current = surfer;
      regions.current = plugin;
      // The package's own scrolling part takes the focus for this box: keys bubble up from it.
      surfer.getWrapper().parentElement?.setAttribute('tabindex', '0');
      surfer.on('ready', () => setReady(true));
      surfer.on('error', () => setTrouble(NOT_FETCHED));
      surfer.on('play', () => setPlaying(true));
      surfer.on('pause', () => setPlaying(false));
      const stand = (timeS: number) => {
        cursor.current = timeS;
        setCursorS(timeS);
      };
      surfer.on('timeupdate', (timeS) => {
        if (surfer?.isPlaying()) stand(timeS);
      });
      surfer.on('interaction', stand);
    };
    recordingPeaks(address, leaving.signal, setFetched).then(
      (long) => {
        if (!leaving.signal.aborted) open(long);
      },
      () => {
        if (!leaving.signal.aborted) setTrouble(NOT_FETCHED);
      },
    );
    return () => {
      leaving.abort();
      setReady(false);
      surfer?.destroy();
    };
  }, [address]);

  useEffect(() => {
    if (ready) wave.current?.zoom(ZOOMS[zoom] as number);
  }, [ready, zoom]);

  useEffect(() => {
    const plugin = regions.current;
    if (!ready || !plugin || !frame.current) return;
    const color = colourOf(frame.current, 'ink');
    plugin.clearRegions();
    const gapColour = colourOf(frame.current, 'rule');
    for (const { fromS, toS } of gaps)
      plugin.addRegion({ start: fromS, end: toS, color: gapColour, drag: false, resize: false });
    for (const { notes, extras } of repetitions) {
      const onsets = [...notes.flatMap((note) => note.onsetS ?? []), ...extras.map((extra) => extra.timeS)];
      for (const start of onsets) plugin.addRegion({ start, color, drag: false, resize: false });
    }
  }, [ready, repetitions, gaps]);

  useEffect(() => {
    if (!ready || !wish) return;
    cursor.current = Math.max(0, wish.fromS - LEAD_S);
    wave.current?.setTime(cursor.current);
    void wave.current?.play();
  }, [ready, wish]);

  /** Moves the cursor; the sound follows in its own time, keys may come faster. */
  const goTo = (timeS: number) => {
    cursor.current = Math.max(0, timeS);
    setCursorS(cursor.current);
    wave.current?.setTime(cursor.current);
  };
  const here = () => cursor.current;
  const walk = (seconds: number) => goTo(here() + seconds);
  const keys: Record<string, () => void> = {
    ArrowLeft: () => walk(-STEP_S),
    ArrowRight: () => walk(STEP_S),
    ',': () => walk(-FINE_STEP_S),
    '.': () => walk(FINE_STEP_S),
    ' ': () => void wave.current?.playPause(),
    '+': () => setZoom((old) => Math.min(ZOOMS.length - 1, old + 1)),
    '-': () => setZoom((old) => Math.max(0, old - 1)),
    a: () => onAdd(here()),
    Delete: () => onRemove(here()),
    Backspace: () => onRemove(here()),
    u: () => onUndo(here()),
  };
  const onKey = (event: React.KeyboardEvent) => {
    const action = keys[event.key];
    if (!action || event.ctrlKey || event.metaKey || event.altKey) return;
    event.preventDefault();
    action();
  };

  return (
    <Box>
      <Box
        ref={frame}
        tabIndex={0}
        role="application"
        aria-label="The recording with its notes. Arrow keys walk, comma and full stop walk finely, space plays, plus and minus zoom, A adds a note at the cursor, Delete removes the nearest, U undoes."
        data-testid="waveform"
        data-ready={ready}
        onKeyDown={onKey}
        borderY="1px solid"
        borderColor="rule"
        minHeight={`${HEIGHT}px`}
      />
      {trouble && <Text role="alert">{trouble}</Text>}
      <Flex gap="10px" align="center" marginTop="8px" flexWrap="wrap">
        <Action quiet onClick={() => (playing ? wave.current?.pause() : void wave.current?.play())} disabled={!ready}>
          {playing
            ? 'Stop listening'
            : ready
              ? 'Hear the take'
              : `Fetching the sound${fetched > 0 ? `, ${Math.round(100 * fetched)} %` : ''} …`}
        </Action>
        <Action quiet onClick={() => keys['-']?.()} aria-label="Show more of the take">
          −
        </Action>
        <Action quiet onClick={() => keys['+']?.()} aria-label="Look closer">
          +
        </Action>
        <Text minWidth="8ch" fontFamily="heading" fontSize="19px" data-testid="cursor">
          {clock(cursorS)}
        </Text>
        <Action quiet onClick={() => onAdd(here())} disabled={!ready}>
          Add a note here
        </Action>
        <Action quiet onClick={() => onRemove(here())} disabled={!ready}>
          Remove the nearest
        </Action>
        <Action quiet onClick={() => onUndo(here())} disabled={!ready}>
          Undo
        </Action>
      </Flex>
    </Box>
  );
};
