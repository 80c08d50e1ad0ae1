import { Flex } from '@chakra-ui/react';
import { type Grid, TempoSchema } from '@isochron/core/schema';
import { useEffect, useRef, useState } from 'react';
import { useSettings } from '../../api/settings';
import { Action } from '../../app/Action';
import { NumberField, YesNoField } from '../../app/fields';
import { useScores } from './use-scores';

/** The material played by the built-in voice, round and round, at any tempo, with its click or without. */
export const HearIt = ({ grid, firstBpm }: { grid: Grid; firstBpm: number }) => {
  const { settings } = useSettings();
  const scores = useScores();
  const [tempoBpm, setTempoBpm] = useState(firstBpm);
  const [withClick, setWithClick] = useState(true);
  const [opening, setOpening] = useState(false);
  const [sounding, setSounding] = useState(false);
  const context = useRef<AudioContext | null>(null);
  const stop = () => {
    void context.current?.close();
    context.current = null;
    setSounding(false);
  };
  // biome-ignore lint/correctness/useExhaustiveDependencies: what is heard is what was shown; leaving the page silences it.
  useEffect(() => stop, [grid]);
  const hear = async () => {
    setOpening(true);
    try {
      const audio = new AudioContext();
      context.current = audio;
      const samples = await scores.hear(grid, tempoBpm, settings.instrumentId, audio.sampleRate, withClick);
      if (context.current !== audio) return;
      const buffer = audio.createBuffer(1, samples.length, audio.sampleRate);
      buffer.copyToChannel(samples, 0);
      const source = new AudioBufferSourceNode(audio, { buffer, loop: true });
      source.connect(new GainNode(audio, { gain: 0.8 })).connect(audio.destination);
      source.start();
      setSounding(true);
    } finally {
      setOpening(false);
    }
  };
  return (
    <Flex gap="14px 20px" align="flex-end" flexWrap="wrap">
      <NumberField label="Tempo" value={tempoBpm} schema={TempoSchema} onChange={setTempoBpm} width="100px" />
      <YesNoField label="With click" value={withClick} onChange={setWithClick} />
      {sounding ? (
        <Action onClick={stop}>Silence</Action>
      ) : (
        <Action quiet loading={opening} loadingText="Making the sound …" onClick={() => void hear()}>
          Hear it
        </Action>
      )}
    </Flex>
  );
};
