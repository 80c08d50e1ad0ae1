import { Heading, Text } from '@chakra-ui/react';
import { type ReactNode, useEffect } from 'react';
import { Guarded } from './Guarded';

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

/** A titled part of a page, set off by a thin rule; one that is only of use on screen is not printed. */
export const Part = ({ title, id, onScreen = false, children }: PartProps) => (
  <section id={id} style={{ marginTop: '28px' }} className={onScreen ? 'not-printed' : undefined}>
    <Heading
      as="h2"
      fontFamily="heading"
      fontWeight="500"
      fontSize="22px"
      borderBottom="1px solid"
      borderColor="rule"
      paddingBottom="4px"
      marginBottom="12px"
    >
      {title}
    </Heading>
    <Guarded what={`“${title}”`}>{children}</Guarded>
  </section>
);
