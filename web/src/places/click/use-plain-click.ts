import { type BareBar, barClicks, bareBarS } from '@isochron/core/material';
import { useEffect, useRef, useState } from 'react';
import { useSettings } from '../../api/settings';
import { playerMessage } from '../../app/report-error';
import { type AudioEngine, openEngine } from '../../audio/engine';

/** Time from asking for the first click to hearing it. */
const LEAD_S = 0.3;
const LOOK_MS = 100;
/** Bars are handed on so long before they sound. */
const AHEAD_S = 0.4;

interface Sounding {
  engine: AudioEngine;
  /** The next bar that is not handed on yet, and when it begins. */
  bar: number;
  barS: number;
  /** When the bell rings; null for never. */
  bellS: number | null;
}

/**
 * A click that runs without measuring anything. What is changed of it holds from the next bar on. When its time is up a bell rings, and it stops.
 *
 * @param minutes how long it runs; null for as long as it is not stopped
 */
export const usePlainClick = (asked: BareBar | null, minutes: number | null) => {
  const { settings } = useSettings();
  const sounding = useRef<Sounding | null>(null);
  const [state, setState] = useState<'silent' | 'opening' | 'sounding'>('silent');
  const [place, setPlace] = useState({ bar: 0, leftS: null as number | null });
  const [trouble, setTrouble] = useState('');
  const now = useRef(asked);
  // What is no tempo changes nothing.
  if (asked) now.current = asked;

  /** Counts starts and stops: who stops while the sound opens wants none. */
  const asks = useRef(0);
  const stop = () => {
    asks.current += 1;
    const over = sounding.current;
    sounding.current = null;
    void over?.engine.close();
    setState('silent');
  };
  // biome-ignore lint/correctness/useExhaustiveDependencies: leaving the page silences it, once.
  useEffect(() => stop, []);

  const look = (one: Sounding) => {
    const nowS = one.engine.nowS();
    if (one.bellS !== null && nowS >= one.bellS) {
      one.engine.forgetClicks();
      one.engine.announce('bell');
      sounding.current = null;
      setState('silent');
      setPlace({ bar: 0, leftS: null });
      // The bell rings out.
      setTimeout(() => void one.engine.close(), 1000);
      return;
    }
    while (now.current && one.barS < nowS + AHEAD_S) {
      one.engine.playClicks(barClicks(now.current, one.bar, one.barS));
      one.barS += bareBarS(now.current);
      one.bar += 1;
    }
    setPlace({ bar: one.bar, leftS: one.bellS === null ? null : Math.ceil(one.bellS - nowS) });
  };
  const latest = useRef(look);
  latest.current = look;
  useEffect(() => {
    if (state !== 'sounding') return;
    const timer = setInterval(() => sounding.current && latest.current(sounding.current), LOOK_MS);
    return () => clearInterval(timer);
  }, [state]);

  const start = async () => {
    if (state !== 'silent' || !now.current) return;
    const ask = asks.current + 1;
    asks.current = ask;
    setState('opening');
    setTrouble('');
    try {
      // Nobody listens to what is captured.
      const engine = await openEngine(new MessageChannel().port1, settings);
      if (asks.current !== ask) return void engine.close();
      const barS = engine.nowS() + LEAD_S;
      sounding.current = { engine, bar: 0, barS, bellS: minutes === null ? null : barS + 60 * minutes };
      look(sounding.current);
      setState('sounding');
    } catch (error) {
      setTrouble(playerMessage(error));
      setState('silent');
    }
  };
  return { state, ...place, trouble, start, stop };
};
