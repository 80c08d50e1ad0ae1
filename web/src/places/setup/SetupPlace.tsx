import { chakra, Flex, Text } from '@chakra-ui/react';
import { PAIN_ADVICE } from '@isochron/core/words';
import { useSettings } from '../../api/settings';
import { Notice } from '../../app/Notice';
import { PageTitle, Part } from '../../app/Page';
import { AppearanceSettings } from './AppearanceSettings';
import { BackupSettings } from './BackupSettings';
import { CalibrationSettings } from './CalibrationSettings';
import { ClickSettings } from './ClickSettings';
import { DayPlanFields } from './DayPlanFields';
import { InputSettings } from './InputSettings';
import { InstrumentSettings } from './InstrumentSettings';
import { IntegritySettings } from './IntegritySettings';
import { KeySettings } from './KeySettings';
import { ReanalysisSettings } from './ReanalysisSettings';
import { TempoSettings } from './TempoSettings';
import { ToleranceSettings } from './ToleranceSettings';

/** Setup: inputs, tolerance, tempo, appearance and cautions. */
export const SetupPlace = () => {
  const { message, loaded } = useSettings();
  return (
    <>
      <PageTitle title="Setup">Changes are kept at once.</PageTitle>
      <Notice>{message}</Notice>
      {/* Until the settings are here, nothing that stands in them can be changed. */}
      <chakra.fieldset disabled={!loaded} display="contents">
        <Part title="Instrument">
          <InstrumentSettings />
        </Part>
        <Part title="Input">
          <InputSettings />
        </Part>
        <Part title="Delay of the sound">
          <CalibrationSettings />
        </Part>
        <Part title="Tolerance">
          <ToleranceSettings />
        </Part>
        <Part title="Tempo plan">
          <TempoSettings />
        </Part>
        <Part title="Days and plan">
          <DayPlanFields />
        </Part>
        <Part title="Click and rests">
          <ClickSettings />
        </Part>
        <Part title="Keys and pedals">
          <KeySettings />
        </Part>
        <Part title="Words and appearance">
          <AppearanceSettings />
        </Part>
      </chakra.fieldset>
      <Part title="How recordings are measured">
        <ReanalysisSettings />
      </Part>
      <Part title="Your data" id="data">
        <IntegritySettings />
      </Part>
      <Part title="Backup">
        <BackupSettings />
      </Part>
      <Part title="Cautions">
        <Flex direction="column" gap="8px" maxWidth="80ch">
          <Text>
            After a repetition say how it felt: 1 easy, 2 working, 3 tense, 0 if it hurts. A tense repetition never raises the
            tempo; pain ends the take. {PAIN_ADVICE}
          </Text>
          <Text>
            Hearing: an hour-long session near 94 dBA already reaches the recommended daily dose (NIOSH: 85 dBA for 8 hours,
            halved for every 3 dB more). Isochron cannot measure absolute loudness without a calibrated microphone.
          </Text>
        </Flex>
      </Part>
    </>
  );
};
