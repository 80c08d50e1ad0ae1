import { barBeats, clampBpm } from '@isochron/core/material';
import type { InputKind } from '@isochron/core/schema';
import { useAccompaniment, useAccompaniments } from '../../api/accompaniments';
import { ChoiceField } from '../../app/fields';
import type { ConfigChoice } from './config-choice';

const NOTHING = '';
/** Inputs whose microphone would hear the recording too. */
const BY_EAR: readonly InputKind[] = ['microphone'];

/** The recording that is played along with, and the bar of it where the first downbeat lies. */
export const PlayAlongChoice = ({ config, change, input }: ConfigChoice & { input: InputKind }) => {
  const { accompaniments } = useAccompaniments();
  const { playAlong } = config;
  const { accompaniment } = useAccompaniment(playAlong?.accompanimentId);
  const bars = accompaniment?.beats ? barBeats(accompaniment.beats) : [];
  // One without beats gives no grid.
  const offered = accompaniments.filter(({ id, bpm }) => bpm !== null || id === playAlong?.accompanimentId);
  if (offered.length === 0 && !playAlong) return null;
  return (
    <>
      <ChoiceField
        label="Along with"
        help={
          playAlong && BY_EAR.includes(input)
            ? 'Wear headphones: what the microphone hears of it would count as notes.'
            : undefined
        }
        width="100%"
        value={playAlong?.accompanimentId ?? NOTHING}
        choices={[
          { value: NOTHING, name: 'nothing: the click' },
          ...offered.map(({ id, title }) => ({ value: id, name: title })),
        ]}
        onChange={(id) => {
          const chosen = offered.find((one) => one.id === id);
          const goalBpm = clampBpm(Math.round(chosen?.bpm ?? config.goalBpm));
          change({ playAlong: chosen ? { accompanimentId: id, fromBeat: chosen.firstBarBeat, goalBpm } : null });
        }}
      />
      {playAlong && bars.length > 0 && (
        <ChoiceField
          label="From its"
          width="150px"
          value={String(bars.includes(playAlong.fromBeat) ? playAlong.fromBeat : '')}
          choices={[
            ...(bars.includes(playAlong.fromBeat) ? [] : [{ value: '', name: `beat ${playAlong.fromBeat + 1}` }]),
            ...bars.map((beat, k) => ({ value: String(beat), name: `bar ${k + 1}` })),
          ]}
          onChange={(beat) => {
            if (beat) change({ playAlong: { ...playAlong, fromBeat: Number(beat) } });
          }}
        />
      )}
    </>
  );
};
