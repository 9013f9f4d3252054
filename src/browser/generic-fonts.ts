/** The families that stand for the generic names of CSS Fonts 4, section 2.1.3. */
export interface GenericFonts {
  standard: string;
  fixed: string;
  serif: string;
  sansSerif: string;
  cursive: string;
  fantasy: string;
}

const usual: GenericFonts = {
  standard: 'Times New Roman',
  fixed: 'Monospace',
  serif: 'Times New Roman',
  sansSerif: 'Arial',
  cursive: 'Comic Sans MS',
  fantasy: 'Impact',
};

/** As browsers with a window set them on a platform: one without a window has none of its own, and lays text out otherwise. */
export function genericFonts(platform = process.platform): GenericFonts {
  if (platform === 'win32') return { ...usual, fixed: 'Consolas' };
  if (platform !== 'darwin') return usual;
  return {
    standard: 'Times',
    fixed: 'Courier',
    serif: 'Times',
    sansSerif: 'Helvetica',
    cursive: 'Apple Chancery',
    fantasy: 'Papyrus',
  };
}
