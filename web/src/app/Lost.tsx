import { Link } from '@chakra-ui/react';
import { isAppError } from '@isochron/core/schema';
import { useEffect } from 'react';
import { Link as RouterLink, useRouteError } from 'react-router';
import { Action } from './Action';
import { Notice } from './Notice';
import { PageTitle } from './Page';
import { copyDetails, reportError } from './report-error';

/** Shown for an address that leads nowhere, and when a place fails to draw. */
export const Lost = () => {
  const error = useRouteError();
  useEffect(() => {
    if (error) reportError(error);
  }, [error]);
  return (
    <>
      <PageTitle title={error ? 'Something went wrong in Isochron' : 'Nothing here'}>
        {error ? 'This page could not be drawn. What you played is kept.' : 'This address leads nowhere.'}
      </PageTitle>
      {isAppError(error) && <Notice>{error.message}</Notice>}
      {error && !isAppError(error) ? (
        <Action quiet marginRight="16px" onClick={() => void copyDetails(error)}>
          Copy details
        </Action>
      ) : null}
      <Link asChild color="now" textDecoration="underline">
        <RouterLink to="/" reloadDocument>
          Go to Today
        </RouterLink>
      </Link>
    </>
  );
};
