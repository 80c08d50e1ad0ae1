import { useEffect, useRef, useState } from 'react';
import { flushSync } from 'react-dom';
import { useSettings } from '../../api/settings';
import { playerMessage } from '../../app/report-error';
import { type AudioEngine, openEngine } from '../../audio/engine';
import type { OpenInput } from '../../audio/inputs/input';
import { MIDI } from '../../audio/inputs/midi';
import { useEditor } from '../../stores/editor';
import { focusAfter, focusedPlace, type MarkPlace } from './mark-places';

/** What listens while notes are taken from MIDI. */
interface Listening {
  engine: AudioEngine;
  input: OpenInput;
}

/**
 * Notes of the page from a MIDI instrument, once that is turned on: the key that is struck becomes the note that has the focus, which goes on
 * to the next one.
 */
export const useMidiNotes = (onPitch: (place: MarkPlace, pitch: number) => void): { isListening: boolean; toggle(): void } => {
  const { settings } = useSettings();
  const [isListening, setListening] = useState(false);
  const open = useRef<Listening | 'opening' | null>(null);
  const latest = useRef(onPitch);
  latest.current = onPitch;

  const close = () => {
    const over = open.current;
    open.current = null;
    setListening(false);
    if (!over || over === 'opening') return;
    over.input.close();
    void over.engine.close();
  };
  // biome-ignore lint/correctness/useExhaustiveDependencies: leaving the page closes what is open, once.
  useEffect(() => close, []);

  const begin = async () => {
    open.current = 'opening';
    try {
      const engine = await openEngine(new MessageChannel().port1, settings);
      const input = await MIDI.open({
        engine,
        settings,
        onOnset: ({ pitch }) => {
          const place = focusedPlace();
          if (!place || pitch === undefined) return;
          // Drawn before the next key is struck.
          flushSync(() => latest.current(place, pitch));
          focusAfter(place);
        },
        onRelease: () => {},
        onLost: (trouble) => {
          useEditor.setState({ trouble });
          close();
        },
      });
      // Turned off, or left, before it was open.
      if (open.current !== 'opening') {
        input.close();
        void engine.close();
        return;
      }
      open.current = { engine, input };
      setListening(true);
    } catch (error) {
      open.current = null;
      useEditor.setState({ trouble: playerMessage(error) });
    }
  };
  return { isListening, toggle: () => (open.current ? close() : void begin()) };
};
