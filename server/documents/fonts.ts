import { createRequire } from 'node:module';

const fontFile = (family: string, weight: number): string =>
  createRequire(import.meta.url).resolve(`@fontsource/atkinson-hyperlegible-${family}/files/atkinson-hyperlegible-${family}-latin-${weight}-normal.woff`);
const fonts = { text: fontFile('next', 400), bold: fontFile('next', 700), mono: fontFile('mono', 400) };

/** Gives a paper the product's fonts as `text`, `bold` and `mono`. */
export function registerFonts(paper: PDFKit.PDFDocument): void {
  for (const [name, file] of Object.entries(fonts)) paper.registerFont(name, file);
}
