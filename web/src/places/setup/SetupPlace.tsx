import { Box, chakra, Flex } from '@chakra-ui/react';
import { useParams } from 'react-router';
import { useSettings } from '../../api/settings';
import { Notice } from '../../app/Notice';
import { PageTitle, Part } from '../../app/Page';
import { SetupContents } from './SetupContents';
import { SETUP_PARTS, type SetupPart } from './setup-parts';

/** Setup: everything that is set once, part by part. */
export const SetupPlace = () => {
  const { partId } = useParams();
  const { message, loaded } = useSettings();
  const { id, title, Content, standsAlone } = SETUP_PARTS.find((part) => part.id === partId) ?? (SETUP_PARTS[0] as SetupPart);
  return (
    <>
      <PageTitle title="Setup">Changes are kept at once.</PageTitle>
      <Notice>{message}</Notice>
      <Flex
        direction={{ base: 'column', md: 'row' }}
        align={{ base: 'stretch', md: 'flex-start' }}
        gap={{ base: 0, md: '46px' }}
      >
        <SetupContents shownId={id} />
        <Box flex="1" minWidth="0">
          {/* Until the settings are here, nothing that stands in them can be changed. */}
          <chakra.fieldset disabled={!loaded && !standsAlone} display="contents">
            <Part key={id} title={title} id={id}>
              <Content />
            </Part>
          </chakra.fieldset>
        </Box>
      </Flex>
    </>
  );
};
