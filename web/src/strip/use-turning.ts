import { type RefObject, useLayoutEffect, useRef } from 'react';

const TURN_MS = 400;

/**
 * Moves what has changed place gently to where it is now, as the eye follows a page: for systems of about the same height, of which the first
 * one gives way to the next.
 *
 * @param first what tells the first one
 */
export const useTurning = (first: number): RefObject<HTMLDivElement | null> => {
  const box = useRef<HTMLDivElement>(null);
  const before = useRef(first);
  useLayoutEffect(() => {
    const forward = first > before.current;
    before.current = first;
    const top = box.current?.firstElementChild;
    if (!forward || !top || matchMedia('(prefers-reduced-motion: reduce)').matches) return;
    box.current?.animate([{ transform: `translateY(${top.getBoundingClientRect().height}px)` }, { transform: 'none' }], {
      duration: TURN_MS,
      easing: 'ease-in-out',
    });
  }, [first]);
  return box;
};
