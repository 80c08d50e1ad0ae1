import { useHotkeys } from 'react-hotkeys-hook';

/** What keys do, by `KeyboardEvent.key`. */
export type KeyMap = Readonly<Record<string, () => void>>;

/**
 * Single keys (and pedals that send keys) anywhere on the page. Left alone: keys held down, keys with Ctrl, Alt or Cmd, whatever
 * is typed into a field, and Enter on a button or a link, which is theirs.
 */
export const usePageKeys = (keys: KeyMap): void => {
  const names = new Map(Object.keys(keys).map((name) => [name.toLowerCase(), name]));
  useHotkeys(
    [...names.keys()],
    (event) => {
      const name = names.get(event.key.toLowerCase());
      if (name === undefined) return;
      event.preventDefault();
      keys[name]?.();
    },
    {
      useKey: true,
      ignoreEventWhen: (event) =>
        event.repeat || (event.key === 'Enter' && (event.target as HTMLElement).closest('button, a, [role=dialog]') !== null),
    },
    [keys],
  );
};
