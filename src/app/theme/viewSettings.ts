import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import { z } from 'zod';
import type { ThemeName } from './theme.ts';

/** The neutral greys that a photo can be judged on. */
export const SURROUNDS = { white: '#FFFFFF', light: '#BDBDBD', middle: '#777777', dark: '#2E2E2E' } as const;
export type Surround = keyof typeof SURROUNDS;

const settingsSchema = z.object({
  theme: z.enum(['paper', 'dim']).catch('paper'),
  surround: z.enum(['white', 'light', 'middle', 'dark']).catch('middle'),
});

const STORAGE_KEY = 'fingo.view';

function load(): z.infer<typeof settingsSchema> {
  try {
    return settingsSchema.parse(JSON.parse(localStorage.getItem(STORAGE_KEY) ?? '{}'));
  } catch {
    return settingsSchema.parse({});
  }
}

/** Theme and surround: small, per browser, kept outside projects. */
export const viewSettingsSlice = createSlice({
  name: 'viewSettings',
  initialState: load,
  reducers: {
    themeChosen: (state, action: PayloadAction<ThemeName>) => void (state.theme = action.payload),
    surroundChosen: (state, action: PayloadAction<Surround>) => void (state.surround = action.payload),
  },
});

export const { themeChosen, surroundChosen } = viewSettingsSlice.actions;

export function keepViewSettings(settings: z.infer<typeof settingsSchema>): void {
  try {
    localStorage.setItem(STORAGE_KEY, JSON.stringify(settings));
  } catch {
    // Storage switched off: the choice then lasts as long as the page.
  }
}
