import { useEffect } from 'react';

/** What keys do, by `KeyboardEvent.key`. */
export type KeyMap = Record<string, () => void>;

const TYPING = 'input, select, textarea, [contenteditable]';

/** Listens to single keys (and pedals that send keys) anywhere on the page, except while something is typed. */
export const useBenchKeys = (keys: KeyMap): void => {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      if (event.repeat || event.ctrlKey || event.metaKey || event.altKey) return;
      if (target.matches(TYPING) || (event.key === 'Enter' && target.closest('button, a'))) return;
      const action = keys[event.key];
      if (!action) return;
      event.preventDefault();
      action();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [keys]);
};
