import { Heading, Text } from '@chakra-ui/react';
import { type ReactNode, useEffect } from 'react';
import { Guarded } from './Guarded';
import { useListedPart } from './PageContents';

/** A place's title and one line of what it is for. */
export const PageTitle = ({ title, children }: { title: string; children?: ReactNode }) => {
  useEffect(() => {
    document.title = `${title} · Isochron`;
  }, [title]);
  return (
    <>
      <Heading as="h1" fontFamily="heading" fontWeight="500" fontSize="34px" lineHeight="1.2">
        {title}
      </Heading>
      {children && (
        <Text color="quiet" marginBottom="22px">
          {children}
        </Text>
      )}
    </>
  );
};

interface PartProps {
  title: string;
  /** Where an address may lead, after #. */
  id?: string;
  onScreen?: boolean;
  children: ReactNode;
}

/**
 * A titled part of a page, set off by a thin rule; one that is only of use on screen is not printed. With an `id` it is on the contents
 * list of its page, where there is one.
 */
export const Part = ({ title, id, onScreen = false, children }: PartProps) => {
  const { ref, folds } = useListedPart(id, title);
  const heading = (
    <Heading
      as="h2"
      display={folds ? 'inline' : undefined}
      fontFamily="heading"
      fontWeight="500"
      fontSize="22px"
      borderBottom={folds ? undefined : '1px solid'}
      borderColor="rule"
      paddingBottom="4px"
      marginBottom="12px"
    >
      {title}
    </Heading>
  );
  const body = <Guarded what={`“${title}”`}>{children}</Guarded>;
  return (
    <section
      ref={ref}
      id={id}
      style={{ marginTop: folds ? '12px' : '28px', scrollMarginTop: '60px' }}
      className={onScreen ? 'not-printed' : undefined}
    >
      {folds ? (
        <details>
          <summary>{heading}</summary>
          {body}
        </details>
      ) : (
        <>
          {heading}
          {body}
        </>
      )}
    </section>
  );
};
