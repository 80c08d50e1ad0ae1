import type { Gap, Repetition } from '@isochron/core/schema';
import { type RefObject, useEffect, useRef, useState } from 'react';
import WaveSurfer from 'wavesurfer.js';
import RegionsPlugin from 'wavesurfer.js/plugins/regions';
import { type RecordingPeaks, recordingPeaks } from '../../../audio/recording-peaks';

/** Hearing begins this long before a note. */
const LEAD_S = 0.15;
export const WAVE_HEIGHT = 120;
const NOT_FETCHED = 'The recording cannot be fetched just now. Reload the page to try again.';

/** A colour of the theme as a canvas understands it. */
const colourOf = (element: HTMLElement, name: string) => getComputedStyle(element).getPropertyValue(`--chakra-colors-${name}`);

export interface WaveOptions {
  address: string;
  /** Where the player asked to hear it from, a new one each time; waits until the sound is there. */
  wish: { fromS: number } | null;
  repetitions: readonly Repetition[];
  /** Where sound is missing. */
  gaps: readonly Gap[];
  pixelsPerS: number;
}

/** A drawn recording. */
export interface Wave {
  frame: RefObject<HTMLDivElement | null>;
  ready: boolean;
  playing: boolean;
  trouble: string;
  /** The share of the sound that has come, 0…1. */
  fetched: number;
  cursorS: number;
  /** Where the cursor is this moment: keys come faster than drawings. */
  hereS(): number;
  goTo(timeS: number): void;
  toggle(): void;
}

/** Draws a recording in a frame, with a line at every onset and its gaps, and plays it. */
export const useWave = ({ address, wish, repetitions, gaps, pixelsPerS }: WaveOptions): Wave => {
  const frame = useRef<HTMLDivElement>(null);
  const wave = useRef<WaveSurfer | null>(null);
  const regions = useRef<ReturnType<typeof RegionsPlugin.create> | null>(null);
  const cursor = useRef(0);
  const [ready, setReady] = useState(false);
  const [playing, setPlaying] = useState(false);
  const [cursorS, setCursorS] = useState(0);
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
        height: WAVE_HEIGHT,
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
    if (ready) wave.current?.zoom(pixelsPerS);
  }, [ready, pixelsPerS]);

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

  return {
    frame,
    ready,
    playing,
    trouble,
    fetched,
    cursorS,
    hereS: () => cursor.current,
    goTo(timeS) {
      cursor.current = Math.max(0, timeS);
      setCursorS(cursor.current);
      wave.current?.setTime(cursor.current);
    },
    toggle: () => void wave.current?.playPause(),
  };
};
