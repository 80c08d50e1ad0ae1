import { Link } from '@chakra-ui/react';
import { Link as RouterLink, useRouteError } from 'react-router';
import { Notice, PageTitle } from './Page';

/** Shown for an address that leads nowhere, and when a place fails to draw. */
export const Lost = () => {
  const error = useRouteError();
  return (
    <>
      <PageTitle title={error ? 'Something broke' : 'Nothing here'}>
        {error ? 'This page could not be drawn. What you played is kept.' : 'This address leads nowhere.'}
      </PageTitle>
      {error instanceof Error && <Notice>{error.message}</Notice>}
      <Link asChild color="now" textDecoration="underline">
        <RouterLink to="/" reloadDocument>
          Go to Today
        </RouterLink>
      </Link>
    </>
  );
};
