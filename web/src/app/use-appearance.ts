import { useEffect } from 'react';
import { useSettings } from '../api/settings';

/** Puts the chosen appearance on the page: paper, ink, or as the system says. */
export const useAppearance = (): void => {
  const { appearance } = useSettings().settings;
  useEffect(() => {
    const system = matchMedia('(prefers-color-scheme: dark)');
    const apply = () => {
      const isInk = appearance === 'ink' || (appearance === 'system' && system.matches);
      document.documentElement.classList.toggle('dark', isInk);
      document.documentElement.classList.toggle('light', !isInk);
      document.documentElement.style.colorScheme = isInk ? 'dark' : 'light';
    };
    apply();
    system.addEventListener('change', apply);
    return () => system.removeEventListener('change', apply);
  }, [appearance]);
};
