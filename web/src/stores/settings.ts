import { DEFAULT_SETTINGS, type Settings } from '@isochron/core';
import { create } from 'zustand';
import { getSettings, putSettings } from '../api/client';

interface SettingsStore {
  settings: Settings;
  loaded: boolean;
  /** Empty, or why the last change could not be stored. */
  message: string;
  load(): Promise<void>;
  change(part: Partial<Settings>): Promise<void>;
}

/** The player's settings; a change shows at once and is stored on the server. */
export const useSettings = create<SettingsStore>((set, get) => ({
  settings: DEFAULT_SETTINGS,
  loaded: false,
  message: '',
  async load() {
    try {
      set({ settings: await getSettings(), loaded: true });
    } catch (error) {
      set({ message: (error as Error).message, loaded: true });
    }
  },
  async change(part) {
    const settings = { ...get().settings, ...part };
    set({ settings });
    try {
      await putSettings(settings);
      set({ message: '' });
    } catch (error) {
      set({ message: (error as Error).message });
    }
  },
}));
