import { Box, chakra } from '@chakra-ui/react';
import { createContext, type ReactNode, type RefCallback, useCallback, useContext, useMemo, useState } from 'react';
import { useIsNarrow } from './use-is-narrow';

interface ListedPart {
  id: string;
  title: string;
  section: Element;
}

/** Puts a part on the contents list; what it gives back takes it off again. */
type ListPart = (part: ListedPart) => () => void;

const ContentsContext = createContext<ListPart | null>(null);

const inOrder = (one: ListedPart, other: ListedPart): number =>
  one.section.compareDocumentPosition(other.section) & Node.DOCUMENT_POSITION_FOLLOWING ? -1 : 1;

const ContentsLink = chakra('a', {
  base: { fontSize: '16px', color: 'quiet', paddingY: '7px', '&:hover': { color: 'ink', textDecoration: 'underline' } },
});

/** A long page: the list of its parts stays in sight. On a phone the parts themselves are the list, each of which opens. */
export const PageContents = ({ title, children }: { title: string; children: ReactNode }) => {
  const [parts, setParts] = useState<readonly ListedPart[]>([]);
  const isNarrow = useIsNarrow();
  const list = useCallback<ListPart>((part) => {
    setParts((before) => [...before, part].sort(inOrder));
    return () => setParts((before) => before.filter((one) => one !== part));
  }, []);
  return (
    <ContentsContext value={list}>
      {!isNarrow && (
        <Box
          as="nav"
          aria-label={title}
          position="sticky"
          top="0"
          zIndex="docked"
          background="page"
          display="flex"
          flexWrap="wrap"
          gap="0 22px"
          borderBottom="1px solid"
          borderColor="rule"
          marginBottom="12px"
        >
          {parts.map((part) => (
            <ContentsLink key={part.id} href={`#${part.id}`}>
              {part.title}
            </ContentsLink>
          ))}
        </Box>
      )}
      {children}
    </ContentsContext>
  );
};

/** Lists a part where its page has a contents list; whether it is one that opens. */
export const useListedPart = (id: string | undefined, title: string): { ref: RefCallback<Element>; folds: boolean } => {
  const list = useContext(ContentsContext);
  const isNarrow = useIsNarrow();
  const ref = useMemo<RefCallback<Element>>(
    () => (section) => (list && id && section ? list({ id, title, section }) : undefined),
    [list, id, title],
  );
  return { ref, folds: isNarrow && list !== null && id !== undefined };
};
