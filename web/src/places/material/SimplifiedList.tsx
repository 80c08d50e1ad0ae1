import { Box, Text } from '@chakra-ui/react';
import { useLocation } from 'react-router';

/** What of a file was taken over in a simpler form; it comes with the way to the page. */
export const SimplifiedList = () => {
  const { state } = useLocation();
  const simplified: readonly string[] = (state as { simplified?: string[] } | null)?.simplified ?? [];
  if (simplified.length === 0) return null;
  return (
    <Box borderLeft="4px solid" borderColor="now" paddingLeft="14px" marginY="12px">
      <Text fontWeight="600">Taken over with these changes:</Text>
      <ul style={{ paddingLeft: '18px', listStyle: 'disc' }}>
        {simplified.map((sentence) => (
          <li key={sentence}>{sentence}</li>
        ))}
      </ul>
    </Box>
  );
};
