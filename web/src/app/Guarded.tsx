import type { ReactNode } from 'react';
import { ErrorBoundary, type FallbackProps } from 'react-error-boundary';
import { Action } from './Action';
import { Notice } from './Notice';
import { copyDetails, logFault } from './report-error';

/** A part of a page that may fail to draw without taking the page with it: the loop, and Stop, go on. `what` is what it is called, with a capital. */
export const Guarded = ({ what, of, children }: { what: string; of?: unknown; children: ReactNode }) => (
  <ErrorBoundary
    // Drawn again by itself once it is of something else.
    resetKeys={[of]}
    onError={logFault}
    fallbackRender={({ error }: FallbackProps) => (
      <>
        <Notice>
          {what} could not be drawn. Everything else goes on, and nothing is lost. It may be there after a reload.
        </Notice>
        <Action quiet onClick={() => void copyDetails(error)}>
          Copy details
        </Action>
      </>
    )}
  >
    {children}
  </ErrorBoundary>
);
