import { useEffect, useState } from 'react';
import { useSettings } from '../../api/settings';
import { ChoiceField, YesNoField } from '../../app/fields';
import { speak, voiceNames } from '../../audio/speech';

const OWN_CHOICE = '';

/** The names of the browser's voices, as soon as it tells them. */
const useVoices = (): string[] => {
  const [names, setNames] = useState(voiceNames);
  useEffect(() => {
    if (!('speechSynthesis' in window)) return;
    const look = () => setNames(voiceNames());
    speechSynthesis.addEventListener('voiceschanged', look);
    return () => speechSynthesis.removeEventListener('voiceschanged', look);
  }, []);
  return names;
};

/** Whether each decision is said aloud, and by whom. */
export const SpeechSettings = () => {
  const { settings, change } = useSettings();
  const voices = useVoices();
  return (
    <>
      <YesNoField
        label="Say each decision aloud"
        value={settings.speaks}
        onChange={(speaks) => {
          void change({ speaks });
          speak('Clean. 96 again.', { ...settings, speaks });
        }}
      />
      {settings.speaks && (
        <ChoiceField
          label="By this voice"
          help="Wear headphones: a microphone would hear it."
          value={voices.includes(settings.voice) ? settings.voice : OWN_CHOICE}
          choices={[{ value: OWN_CHOICE, name: 'the browser’s own choice' }, ...voices.map((name) => ({ value: name, name }))]}
          onChange={(voice) => {
            void change({ voice });
            speak('Clean. 96 again.', { ...settings, voice });
          }}
        />
      )}
    </>
  );
};
