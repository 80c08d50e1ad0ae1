import { Box, chakra, Text } from '@chakra-ui/react';
import { CLICK_PLANS, methodOf } from '@isochron/core/material';
import { type ConfigPart, changesToUsual, newPracticeConfig } from '@isochron/core/planning';
import { type Drill, type Passage, type PracticeConfig, type Settings, WHOLE } from '@isochron/core/schema';
import { strategyOf } from '@isochron/core/strategy';
import { useSettings } from '../../api/settings';
import { Action } from '../../app/Action';
import { type KeyMap, usePageKeys } from '../../app/use-page-keys';
import { inputOf } from '../../audio/inputs/inputs';
import type { ConfigChoice } from './config-choice';

interface Shown {
  config: PracticeConfig;
  settings: Settings;
  passage: Passage;
  /** What is played. */
  drill: Drill;
}

/** A part of how it is practised: a word of the sentence that opens what there is to choose. */
export interface ConfigTopic {
  id: ConfigPart | 'input' | 'bars';
  /** What is chosen there. */
  label: string;
  keyName: string;
  /** How the sentence comes to it. */
  before: string;
  chosen(shown: Shown): string;
}

/** A name inside a sentence. */
const inSentence = (name: string) => name.charAt(0).toLowerCase() + name.slice(1);

/** The parts of the sentence, in its order. To add one: say here how it is called, and give the Bench its panel. */
export const CONFIG_TOPICS: readonly ConfigTopic[] = [
  {
    id: 'bars',
    label: 'Bars and marks',
    keyName: 'W',
    before: 'You play ',
    chosen: ({ config, passage }) =>
      config.sectionId === WHOLE ? 'the whole' : (passage.sections.find(({ id }) => id === config.sectionId)?.name ?? 'a part'),
  },
  {
    id: 'method',
    label: 'Practice method',
    keyName: 'M',
    before: ', ',
    chosen: ({ config }) =>
      [config.methodId, ...(config.alsoMethodId ? [config.alsoMethodId] : [])]
        .map((id) => inSentence(methodOf(id).name))
        .join(' with '),
  },
  {
    id: 'click',
    label: 'Click',
    keyName: 'C',
    before: ', ',
    chosen: ({ config, drill }) =>
      config.playAlong
        ? 'along with a recording'
        : `the click ${CLICK_PLANS.find(({ kind }) => kind === drill.click.kind)?.name ?? 'as suits it'}`,
  },
  {
    id: 'strategy',
    label: 'Tempo plan',
    keyName: 'T',
    before: '. The tempo plan is ',
    chosen: ({ config }) => inSentence(strategyOf(config.strategyId).name),
  },
  {
    id: 'input',
    label: 'Heard by',
    keyName: 'H',
    before: '; you are heard by ',
    chosen: ({ settings }) => `the ${inSentence(inputOf(settings.input).name).replace(/^mIDI/, 'MIDI')}`,
  },
];

const Part = chakra('button', {
  base: {
    fontFamily: 'heading',
    color: 'ink',
    cursor: 'pointer',
    borderBottom: '2px dotted',
    borderColor: 'quiet',
    lineHeight: '1.3',
    '&[aria-expanded=true]': { background: 'band', borderBottomStyle: 'solid', borderColor: 'now' },
    '&[data-changed]': { color: 'now', fontWeight: '600' },
  },
});

interface Props extends ConfigChoice {
  passage: Passage;
  drill: Drill;
  /** As it is stored, whatever block is at work. */
  own: PracticeConfig;
  /** The part that is open; null where none is. */
  open: ConfigTopic['id'] | null;
  onOpen(part: ConfigTopic['id'] | null): void;
}

/** How it is practised, as one plain sentence; each of its parts opens what there is to choose. */
export const ConfigSentence = ({ passage, drill, own, config, change, open, onOpen }: Props) => {
  const { settings } = useSettings();
  const parts = CONFIG_TOPICS.filter(({ id }) => id !== 'bars' || passage.sections.length > 0 || passage.variants.length > 1);
  const [first] = parts;
  const back = changesToUsual(own, newPracticeConfig(passage, settings));
  const changed = Object.values(back);
  const toggle = (id: ConfigTopic['id']) => onOpen(open === id ? null : id);
  // As one change: each would show the others as they were.
  const putBack = () => change(Object.assign({}, ...changed));
  const keys: KeyMap = {
    ...Object.fromEntries(parts.map(({ id, keyName }) => [keyName.toLowerCase(), () => toggle(id)])),
    u: putBack,
    ...(open ? { Escape: () => onOpen(null) } : {}),
  };
  // A key of the player's own holds where one of these is the same.
  const taken = Object.values(settings.keys);
  usePageKeys(Object.fromEntries(Object.entries(keys).filter(([name]) => !taken.includes(name))));
  return (
    <Box marginTop="10px">
      <Text
        fontFamily="heading"
        fontSize={{ base: '20px', md: '24px' }}
        lineHeight="1.4"
        color="quiet"
        data-testid="config-sentence"
      >
        {parts.map((part) => (
          <span key={part.id}>
            {part === first && part.id !== 'bars' ? 'You play it ' : part.before}
            <Part
              type="button"
              aria-label={`${part.label}: ${part.chosen({ config, settings, passage, drill })}${part.id in back ? ', changed from the usual' : ''}`}
              aria-expanded={open === part.id}
              aria-controls="config-panel"
              data-changed={part.id in back || undefined}
              onClick={() => toggle(part.id)}
            >
              {part.chosen({ config, settings, passage, drill })}
            </Part>
          </span>
        ))}
        .{' '}
        {changed.length > 0 && (
          <Action quiet fontSize="15px" padding="1px 10px" verticalAlign="middle" onClick={putBack}>
            back to the usual
          </Action>
        )}
      </Text>
    </Box>
  );
};
