import { Text } from '@chakra-ui/react';
import type { ReactNode } from 'react';

/** A message that the player should not miss; spoken by screen readers at once. */
export const Notice = ({ children }: { children: ReactNode }) =>
  children ? (
    <Text
      role="alert"
      borderLeft="4px solid"
      borderColor="ink"
      paddingLeft="14px"
      marginY="12px"
      fontSize="18px"
      whiteSpace="pre-line"
    >
      {children}
    </Text>
  ) : null;
