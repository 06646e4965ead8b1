import { MOOR, type Palette } from './palette';

/** Palettes to begin with, each of which passes as it stands. */
export const PALETTES = {
  moor: MOOR,
  ling: { sheet: '#FFFFFF', ink: '#2B2130', band: '#5B2F60', onBand: '#FBF3FC', act: '#7A3C80', onAct: '#FFFFFF' },
  gorse: { sheet: '#FFFEF6', ink: '#2A2518', band: '#F0C44C', onBand: '#2A2110', act: '#7D5600', onAct: '#FFFFFF' },
  tarn: { sheet: '#FBFDFF', ink: '#14222E', band: '#0F3A57', onBand: '#E8F3FA', act: '#0B6A8F', onAct: '#FFFFFF' },
  peat: { sheet: '#211C1A', ink: '#EFE8E1', band: '#151110', onBand: '#F0C44C', act: '#E0A93C', onAct: '#1B1306' },
  rowan: { sheet: '#FFFFFF', ink: '#2B1C1A', band: '#FBEFEA', onBand: '#7A1F14', act: '#B3372B', onAct: '#FFFFFF' },
  slate: { sheet: '#F6F7F8', ink: '#1F2429', band: '#39434D', onBand: '#FFFFFF', act: '#1F2429', onAct: '#FFFFFF' },
  lichen: { sheet: '#FDFEF9', ink: '#26301F', band: '#DDE7C7', onBand: '#2C3A1C', act: '#4B6B3C', onAct: '#FFFFFF' },
} as const satisfies Record<string, Palette>;
export type PaletteName = keyof typeof PALETTES;
export const PALETTE_NAMES = Object.keys(PALETTES) as PaletteName[];
