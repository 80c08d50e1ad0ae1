import { type RefObject, useLayoutEffect, useRef, useState } from 'react';

/** The width of an element in pixels, kept current; `first` until it is known. */
export const useWidth = (first: number): [RefObject<HTMLDivElement | null>, number] => {
  const ref = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(first);
  useLayoutEffect(() => {
    const element = ref.current;
    if (!element) return;
    const read = (pixels: number) => setWidth(Math.max(240, Math.floor(pixels)));
    read(element.clientWidth);
    const observer = new ResizeObserver(([entry]) => {
      if (entry) read(entry.contentRect.width);
    });
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  return [ref, width];
};
