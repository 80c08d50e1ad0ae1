import { Box, Flex, Text } from '@chakra-ui/react';
import { type ReactNode, useState } from 'react';
import { useNavigate } from 'react-router';
import { usePassages } from '../../api/queries/passages';
import { useSettings } from '../../api/settings';
import { Action } from '../../app/Action';
import { ChoiceField } from '../../app/fields';
import { PageTitle, Part } from '../../app/Page';
import { InputChoice } from '../bench/InputChoice';
import { CalibrationSettings } from '../setup/CalibrationSettings';
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
    title: 'What you play',
    about: 'So that it is written as you read it, and heard as it sounds. It can be changed at any time in Setup.',
    next: 'On to how you are heard',
  },
  {
    title: 'How you are heard',
    about:
      'A microphone near the instrument, and the click in headphones, so that it is not recorded. Ask whether anything is heard and play a note: the level should move well and stay short of too loud. MIDI, the tap pad, or a simulated player do as well.',
    next: 'On to the delay',
  },
  {
    title: 'The delay of the sound',
    about:
      'Evenness needs none of this; only whether you are early or late against the click does. Leave it for later if you like.',
    next: 'On to an exercise',
  },
  {
    title: 'One exercise',
    about: 'Short and easy is best for the first time. Your own music comes in Material: typed, played in, or from a file.',
    next: 'On to a first take',
  },
  {
    title: 'One take',
    about:
      'You hear one bar of count-in in the value of the first note, then you play the exercise. After it you hear and see how even it was, and the next tempo; then it begins again by itself. Esc stops. Say how it felt with 1, 2 or 3; if anything hurts, press 0.',
    next: 'To the Bench',
  },
];

/** A first day in five short steps; every one can be left. */
export const FirstDayPage = () => {
  const [at, setAt] = useState(0);
  const { passages } = usePassages();
  const { change } = useSettings();
  const navigate = useNavigate();
  const [chosen, setChosen] = useState('');
  const passage = passages.find(({ id }) => id === chosen) ?? passages.find(({ isPattern }) => isPattern) ?? passages[0];
  const step = STEPS[at] as Step;
  const leave = (to: string) => {
    void change({ firstDay: 'over' });
    void navigate(to);
  };
  const parts: readonly ReactNode[] = [
    <InstrumentSettings key="instrument" />,
    <InputChoice key="input" opening={false} />,
    <CalibrationSettings key="delay" />,
    <Box key="exercise">
      <ChoiceField
        label="Exercise"
        help={passage?.about}
        width="320px"
        value={passage?.id ?? ''}
        choices={passages.map(({ id, title }) => ({ value: id, name: title }))}
        onChange={setChosen}
      />
    </Box>,
    <Text key="take" fontFamily="heading" fontSize="24px">
      {passage?.title}
    </Text>,
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
