import { Button, type ButtonProps } from '@chakra-ui/react';

/** A button in the house's look; `quiet` for the second choice. */
export const Action = ({ quiet = false, ...rest }: ButtonProps & { quiet?: boolean }) => (
  <Button
    borderRadius="control"
    height="auto"
    paddingX="16px"
    paddingY="7px"
    fontSize="17px"
    background={quiet ? 'transparent' : 'now'}
    color={quiet ? 'ink' : 'onNow'}
    border="1px solid"
    borderColor={quiet ? 'quiet' : 'now'}
    _hover={{ background: quiet ? 'band' : 'now' }}
    {...rest}
  />
);
