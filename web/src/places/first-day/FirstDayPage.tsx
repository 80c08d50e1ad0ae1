import { Box, Flex, Text } from '@chakra-ui/react';
import { type ReactNode, useState } from 'react';
import { useNavigate } from 'react-router';
import { usePassages } from '../../api/queries/passages';
import { useSettings } from '../../api/settings';
import { Action } from '../../app/Action';
import { ChoiceField, Fields, YesNoField } from '../../app/fields';
import { PageTitle, Part } from '../../app/Page';
import { InputChoice } from '../bench/InputChoice';
import { InstrumentSettings } from '../setup/InstrumentSettings';

/** What a first day asks, one thing at a time. */
interface Step {
  title: string;
  about: string;
  /** What is said on the way on; where it can be left for later, that too. */
  next: string;
}

const STEPS: readonly Step[] = [
  {
    title: 'What you play, and how you are heard',
    about:
      'A microphone near the instrument, and the click in headphones, so that it is not recorded. MIDI, the tap pad, or a simulated player do as well. All of it can be changed at any time in Setup.',
    next: 'On to an exercise',
  },
  {
    title: 'One exercise',
    about:
      'Short and easy is best for the first time; your own music comes in Material. On the Bench, Enter begins: you hear one bar of count-in, then you play. After it you hear and see how even it was, and the next tempo; then it begins again by itself. Esc stops. Say how it felt with 1, 2 or 3; if anything hurts, press 0.',
    next: 'To the Bench',
  },
];

/** A first day in two short steps, with nothing that can wait; each can be left. */
export const FirstDayPage = () => {
  const [at, setAt] = useState(0);
  const { passages } = usePassages();
  const { settings, change } = useSettings();
  const navigate = useNavigate();
  const [chosen, setChosen] = useState('');
  const passage = passages.find(({ id }) => id === chosen) ?? passages.find(({ isPattern }) => isPattern) ?? passages[0];
  const step = STEPS[at] as Step;
  const leave = (to: string) => {
    void change({ firstDay: 'over' });
    void navigate(to);
  };
  const parts: readonly ReactNode[] = [
    <Box key="heard">
      <InstrumentSettings />
      <Box marginTop="18px">
        <InputChoice opening={false} />
      </Box>
    </Box>,
    <Box key="exercise">
      <ChoiceField
        label="Exercise"
        help={passage?.about}
        width="320px"
        value={passage?.id ?? ''}
        choices={passages.map(({ id, title }) => ({ value: id, name: title }))}
        onChange={setChosen}
      />
      <Fields>
        <YesNoField
          label="Say each verdict and tempo aloud"
          value={settings.speaks}
          onChange={(speaks) => void change({ speaks })}
        />
      </Fields>
      <Text color="quiet" fontSize="15px">
        With headphones on: a microphone would hear it. A sound tells you in any case whether the tempo goes up or down.
      </Text>
    </Box>,
  ];
  const goOn = () => {
    if (at + 1 < STEPS.length) setAt(at + 1);
    else leave(passage ? `/bench/${passage.id}` : '/material');
  };
  return (
    <>
      <PageTitle title="Your first day">
        Step {at + 1} of {STEPS.length}
      </PageTitle>
      <Part key={step.title} title={step.title}>
        <Text maxWidth="75ch" marginBottom="16px">
          {step.about}
        </Text>
        {parts[at]}
      </Part>
      <Flex gap="14px" flexWrap="wrap" marginTop="26px" align="center">
        <Action onClick={goOn}>{step.next}</Action>
        {at > 0 && (
          <Action quiet onClick={() => setAt(at - 1)}>
            Back
          </Action>
        )}
        <Action quiet onClick={() => leave('/')}>
          Leave it here
        </Action>
      </Flex>
    </>
  );
};
