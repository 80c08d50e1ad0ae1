import { Flex, Text } from '@chakra-ui/react';
import { TOLERANCE_PRESETS, type Tolerance, type TolerancePreset, ToleranceSchema } from '@isochron/core/schema';
import { useSettings } from '../../api/settings';
import { ChoiceField, NumberField, YesNoField } from '../../app/fields';

const NAMES: Record<TolerancePreset, string> = {
  settling: 'Settling (15 %, at least 18 ms)',
  secure: 'Secure (10 %, at least 12 ms)',
  polished: 'Polished (6 %, at least 8 ms)',
  meticulous: 'Meticulous (4 %, at least 6 ms)',
};

const shape = ToleranceSchema.shape;
const percent = (low: number, high: number) =>
  shape.accuracyPct.min(low, `Not less than ${low} %.`).max(high, `Not more than ${high} %.`);

/** How near is near enough; every limit of the verdict can be changed. */
export const ToleranceSettings = () => {
  const { settings, change } = useSettings();
  const { tolerance } = settings;
  const own = (part: Partial<Tolerance>) => void change({ tolerance: { ...tolerance, ...part, preset: 'own' } });
  const choices = [
    ...(Object.keys(NAMES) as TolerancePreset[]).map((value) => ({ value, name: NAMES[value] })),
    ...(tolerance.preset === 'own' ? [{ value: 'own' as const, name: 'Your own' }] : []),
  ];
  return (
    <>
      <Flex gap="34px" flexWrap="wrap" align="flex-start">
        <ChoiceField<Tolerance['preset']>
          label="Window around each note"
          value={tolerance.preset}
          choices={choices}
          onChange={(preset) => {
            // How wide the window is says nothing of which notes count.
            const { pitchCounts, pitchCountsMidi, placementCounts } = tolerance;
            const counted = { pitchCounts, pitchCountsMidi, placementCounts };
            if (preset !== 'own') void change({ tolerance: { ...TOLERANCE_PRESETS[preset], ...counted } });
          }}
        />
        <NumberField
          label="Notes inside the window"
          unit="%"
          value={tolerance.accuracyPct}
          schema={percent(50, 100)}
          onChange={(accuracyPct) => own({ accuracyPct })}
        />
        <NumberField
          label="Window floor"
          unit="ms"
          value={tolerance.windowFloorMs}
          schema={shape.windowFloorMs.min(6, 'Not under 6 ms: ears do not hear finer.').max(60, 'Not over 60 ms.')}
          onChange={(windowFloorMs) => own({ windowFloorMs })}
        />
        <NumberField
          label="Drift"
          unit="% of tempo"
          value={tolerance.driftPct}
          schema={shape.driftPct.min(0.2, 'Not under 0.2 %.').max(10, 'Not over 10 %.')}
          onChange={(driftPct) => own({ driftPct })}
        />
        <YesNoField
          label="A wrong note counts (MIDI)"
          value={tolerance.pitchCountsMidi}
          onChange={(pitchCountsMidi) => void change({ tolerance: { ...tolerance, pitchCountsMidi } })}
        />
        <YesNoField
          label="A wrong note counts (sound)"
          value={tolerance.pitchCounts}
          onChange={(pitchCounts) => void change({ tolerance: { ...tolerance, pitchCounts } })}
        />
      </Flex>
      <Text color="quiet" maxWidth="80ch" marginTop="10px" fontSize="16px">
        The window is a share of the time between notes, with a floor. Nothing finer than ears can hear is offered. Each take
        keeps the limits it was judged by.
      </Text>
    </>
  );
};
