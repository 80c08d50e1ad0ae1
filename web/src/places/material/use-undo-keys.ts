import { useEffect } from 'react';
import { redo, undo } from '../../stores/editor';

/** Control-Z and Control-Shift-Z, wherever no field has undone by itself. */
export const useUndoKeys = (): void => {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const isField = (event.target as HTMLElement).closest('input, textarea') !== null;
      if (isField || !(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'z') return;
      event.preventDefault();
      if (event.shiftKey) redo();
      else undo();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);
};
