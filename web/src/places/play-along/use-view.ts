import { useState } from 'react';

/** The share of the view that lies before what sounds when it turns over. */
const BEFORE = 0.1;

/** Where the view of a recording begins, in seconds: it turns over like a page when what sounds leaves it. */
export const useView = (placeS: number, spanS: number): number => {
  const [shownS, setShownS] = useState(0);
  const isSeen = placeS >= shownS && placeS < shownS + spanS;
  const fromS = isSeen ? shownS : Math.max(0, placeS - BEFORE * spanS);
  if (fromS !== shownS) setShownS(fromS);
  return fromS;
};
