import { barBeats, beatsPassing, type Playback, placeAt } from '@isochron/core/material';
import type { BeatsOf } from '@isochron/core/schema';
import { useEffect, useRef, useState } from 'react';
import { useSettings } from '../../api/settings';
import { playerMessage } from '../../app/report-error';
import { accompanimentSound } from '../../audio/accompaniment-sound';
import { type AudioEngine, openEngine } from '../../audio/engine';
import { openStretcher, type Stretcher } from '../../audio/stretcher';

/** How the recording is to be heard. */
export interface Hearing {
  /** Share of its own speed. */
  rate: number;
  loop: { fromS: number; toS: number } | null;
  withClick: boolean;
}

const LEAD_S = 0.25;
const LOOK_MS = 100;
/** Clicks are handed on so long before they sound. */
const AHEAD_S = 0.6;

interface Sounding {
  engine: AudioEngine;
  stretcher: Stretcher;
  playback: Playback;
  /** Clicks up to here are handed on. */
  clickedS: number;
}

/** Plays a recording: from anywhere, slower or faster, a stretch of it over and over, with a click on its beats if wished. */
export const usePlayback = (id: string, beats: BeatsOf | null, lengthS: number, hearing: Hearing) => {
  const { settings } = useSettings();
  const sounding = useRef<Sounding | null>(null);
  const [state, setState] = useState<'silent' | 'opening' | 'sounding'>('silent');
  const [placeS, setPlaceS] = useState(0);
  const [trouble, setTrouble] = useState('');

  const stop = () => {
    const over = sounding.current;
    sounding.current = null;
    if (over) setPlaceS(Math.min(lengthS, placeAt(over.playback, over.engine.nowS())));
    void over?.engine.close();
    setState('silent');
  };
  // biome-ignore lint/correctness/useExhaustiveDependencies: leaving the page silences it, once.
  useEffect(() => stop, []);

  const start = (one: Sounding, fromS: number) => {
    const { rate, loop } = hearing;
    const inLoop = loop && (fromS < loop.fromS || fromS >= loop.toS) ? loop.fromS : fromS;
    const atS = one.engine.nowS() + LEAD_S;
    one.engine.forgetClicks();
    one.playback = { atS, fromS: inLoop, rate, loop };
    one.clickedS = atS;
    one.stretcher.play(one.playback);
  };

  const play = async (fromS: number) => {
    if (state === 'opening') return;
    if (sounding.current) {
      start(sounding.current, fromS);
      return;
    }
    setState('opening');
    setTrouble('');
    let engine: AudioEngine | null = null;
    try {
      engine = await openEngine(new MessageChannel().port1, settings);
      const stretcher = await openStretcher(
        engine.context,
        await accompanimentSound(id, engine.sampleRateHz),
        settings.playAlongLevel,
      );
      const one: Sounding = { engine, stretcher, playback: { atS: 0, fromS, rate: 1, loop: null }, clickedS: 0 };
      sounding.current = one;
      start(one, fromS);
      setState('sounding');
    } catch (error) {
      await engine?.close();
      setTrouble(playerMessage(error));
      setState('silent');
    }
  };

  useEffect(() => sounding.current?.stretcher.setLevel(settings.playAlongLevel), [settings.playAlongLevel]);
  // What is heard follows what is asked for, from where it is.
  const loopKey = `${hearing.loop?.fromS} ${hearing.loop?.toS}`;
  // biome-ignore lint/correctness/useExhaustiveDependencies: only a change of what is heard begins it anew.
  useEffect(() => {
    const one = sounding.current;
    if (one) start(one, placeAt(one.playback, one.engine.nowS()));
  }, [hearing.rate, loopKey]);

  // biome-ignore lint/correctness/useExhaustiveDependencies: `stop` is made anew with every drawing and does the same.
  useEffect(() => {
    if (state !== 'sounding') return;
    const bars = new Set(beats ? barBeats(beats) : []);
    const look = setInterval(() => {
      const one = sounding.current;
      if (!one) return;
      const nowS = one.engine.nowS();
      const place = placeAt(one.playback, nowS);
      setPlaceS(Math.min(lengthS, place));
      if (place >= lengthS) {
        stop();
        setPlaceS(0);
        return;
      }
      if (!hearing.withClick || !beats) {
        one.clickedS = nowS;
        return;
      }
      const passing = beatsPassing(one.playback, beats.timesS, one.clickedS, nowS + AHEAD_S);
      one.clickedS = nowS + AHEAD_S;
      one.engine.playClicks(passing.map(({ beat, timeS }) => ({ timeS, kind: bars.has(beat) ? 'bar' : 'beat' })));
    }, LOOK_MS);
    return () => clearInterval(look);
  }, [state, beats, hearing.withClick, lengthS]);

  return {
    state,
    placeS,
    trouble,
    play,
    stop,
    /** The place that the player heard at a moment of the page's clock (ms); null while nothing sounds. */
    heardAt: (performanceMs: number): number | null => {
      const one = sounding.current;
      return one ? placeAt(one.playback, one.engine.clockTimeS(performanceMs)) : null;
    },
    goTo: (toS: number) => {
      setPlaceS(toS);
      if (sounding.current) start(sounding.current, toS);
    },
  };
};
