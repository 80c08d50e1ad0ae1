import { Box, Flex, Text } from '@chakra-ui/react';
import { BENCH_ACTIONS, type BenchAction } from '@isochron/core/schema';
import { useEffect, useState } from 'react';
import { useSettings } from '../../api/settings';
import { Action } from '../../app/Action';
import { listenForCodes } from '../../audio/midi-commands';
import { isMidiCode, USUAL_KEYS } from '../bench/use-bench-keys';

const ACTION_WORDS: Record<BenchAction, string> = {
  begin: 'begin, go on',
  stop: 'stop',
  again: 'again, from the count-in',
  faster: 'faster',
  slower: 'slower',
  easy: 'that felt easy',
  working: 'that felt like working',
  tense: 'that felt tense',
  pain: 'it hurts: stop',
  next: 'the next drill',
  before: 'the drill before',
  finish: 'finish loose',
  afterBreak: 'where to go on after breaking off',
};
/** Keys that the page needs for itself, or that no program is told of. */
const TAKEN = new Set(['Tab', ' ', 'Shift', 'Control', 'Alt', 'Meta', 'Dead', 'Process', 'Unidentified']);

/** A key as it is called. */
const keyWords = (key: string): string => {
  const [kind, number] = key.split(' ');
  if (isMidiCode(key)) return kind === 'midi' ? `MIDI key ${number}` : `MIDI pedal ${number}`;
  return key.length === 1 ? key.toUpperCase() : key.replace(/([a-z])([A-Z])/g, '$1 $2');
};

/** Keys, pedals and MIDI keys of one's own for what is done on the Bench, each set by pressing it. */
export const KeySettings = () => {
  const { settings, change } = useSettings();
  const { keys } = settings;
  const [waiting, setWaiting] = useState<BenchAction | null>(null);
  const [remark, setRemark] = useState('');
  useEffect(() => {
    if (!waiting) return;
    const take = (key: string) => {
      const usual = BENCH_ACTIONS.find((action) => USUAL_KEYS[action].some((one) => one.toLowerCase() === key.toLowerCase()));
      const other = BENCH_ACTIONS.find((action) => keys[action] === key && action !== waiting) ?? usual;
      setWaiting(null);
      if (other) setRemark(`${keyWords(key)} is “${ACTION_WORDS[other]}” already. Choose another key.`);
      else void change({ keys: { ...keys, [waiting]: key } });
    };
    const onKey = (event: KeyboardEvent) => {
      if (event.key === 'Escape') setWaiting(null);
      else if (TAKEN.has(event.key)) return;
      else take(event.key);
      event.preventDefault();
      event.stopPropagation();
    };
    window.addEventListener('keydown', onKey, true);
    const end = listenForCodes(take);
    return () => {
      window.removeEventListener('keydown', onKey, true);
      end();
    };
  }, [waiting, keys, change]);
  return (
    <>
      <Text color="quiet" fontSize="16px" maxWidth="75ch" marginBottom="8px">
        The usual keys always work. Set one of your own, a pedal or a key of a MIDI instrument by pressing it; a MIDI key that
        is set is no longer taken for a note.
      </Text>
      <Box as="ul" listStyleType="none" padding="0" role="list">
        {BENCH_ACTIONS.map((action) => (
          <Flex as="li" key={action} gap="4px 20px" align="center" flexWrap="wrap" paddingY="3px">
            <Text width="190px">{ACTION_WORDS[action]}</Text>
            <Text width="170px" color="quiet">
              {USUAL_KEYS[action].map(keyWords).join(', ')}
            </Text>
            <Text width="150px" data-testid={`own-${action}`}>
              {waiting === action ? 'Press it now …' : keys[action] ? keyWords(keys[action]) : '–'}
            </Text>
            <Action
              quiet
              fontSize="15px"
              paddingY="2px"
              aria-label={`Set a key for: ${ACTION_WORDS[action]}`}
              onClick={() => {
                setRemark('');
                setWaiting(waiting === action ? null : action);
              }}
            >
              {waiting === action ? 'Leave it' : 'Set'}
            </Action>
            {keys[action] && (
              <Action
                quiet
                fontSize="15px"
                paddingY="2px"
                aria-label={`Forget the key for: ${ACTION_WORDS[action]}`}
                onClick={() => {
                  const { [action]: _gone, ...others } = keys;
                  void change({ keys: others });
                }}
              >
                Forget
              </Action>
            )}
          </Flex>
        ))}
      </Box>
      <Text role="status" minHeight="26px">
        {remark}
      </Text>
    </>
  );
};
