import { type RefCallback, useCallback, useState } from 'react';

const NARROWEST = 240;

/** The width of an element in pixels, kept current from the moment it is there; `first` until it is known. */
export const useWidth = (first: number): [RefCallback<HTMLDivElement>, number] => {
  const [width, setWidth] = useState(first);
  const ref = useCallback((element: HTMLDivElement) => {
    const read = (pixels: number) => setWidth(Math.max(NARROWEST, Math.floor(pixels)));
    read(element.clientWidth);
    const observer = new ResizeObserver(([entry]) => {
      if (entry) read(entry.contentRect.width);
    });
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  return [ref, width];
};
