import { Text } from '@chakra-ui/react';
import type { DangerSpot } from '@isochron/core/material';
import { practiceConfigOf } from '@isochron/core/planning';
import type { Passage, Variant } from '@isochron/core/schema';
import { usePracticeConfigs } from '../../api/queries/practice';
import { useSettings } from '../../api/settings';
import { Action } from '../../app/Action';
import { Part } from '../../app/Page';
import { useDescribe } from '../../app/use-describe';
import { usePractise } from '../bench/use-practise';

/** So many spots are named; the others are marked under the notes. */
const NAMED = 8;

interface DangerPartProps {
  passage: Passage;
  variant: Variant | null;
  dangers: readonly DangerSpot[];
  /** Whether it is stored, so that it can be practised. */
  isStored: boolean;
}

/** Where a passage may go wrong, told from its notes, each with its drill. */
export const DangerPart = ({ passage, variant, dangers, isStored }: DangerPartProps) => {
  const { practiceConfigs } = usePracticeConfigs();
  const { settings } = useSettings();
  const say = useDescribe();
  const practise = usePractise();
  if (dangers.length === 0) return null;
  const config = practiceConfigOf(practiceConfigs, passage, settings, { variantId: variant?.id });
  return (
    <Part title="Where it may go wrong">
      <ul style={{ paddingLeft: '18px', listStyle: 'disc' }}>
        {dangers.slice(0, NAMED).map(({ index, why, drill }) => (
          <li key={index}>
            {say(why)}{' '}
            {isStored && (
              <Action
                quiet
                fontSize="15px"
                paddingY="0"
                aria-label={`Practise note ${index} to ${index + 1}`}
                onClick={() => void practise(config, drill)}
              >
                practise it
              </Action>
            )}
          </li>
        ))}
      </ul>
      {dangers.length > NAMED && (
        <Text color="quiet">and {dangers.length - NAMED} more, marked by a wedge under the notes.</Text>
      )}
      <Text color="quiet" fontSize="15px">
        Told from notes and marks alone, at the goal tempo; what you play will show whether it is so.
      </Text>
    </Part>
  );
};
