import { readFileSync } from 'node:fs';
import path from 'node:path';

const css = readFileSync(path.resolve('app/styles.css'), 'utf8');
const tokensIn = (block: RegExp): Record<string, string> =>
  Object.fromEntries(
    [...(block.exec(css)?.[1] ?? '').matchAll(/--([\w-]+):\s*(#[0-9a-f]{6})/g)].map(([, name, hex]) => [
      name,
      hex,
    ]),
  );
/** The colours of both themes, by their names in the style sheet. */
export const THEMES = {
  light: tokensIn(/:root \{([\s\S]*?)\n\}/),
  dark: tokensIn(/\[data-theme='dark'\] \{([\s\S]*?)\n\}/),
};

export type Triple = [number, number, number];
/** Linear light of a colour (IEC 61966-2-1, sRGB). */
export const linear = (hex: string): Triple =>
  [1, 3, 5]
    .map((at) => parseInt(hex.slice(at, at + 2), 16) / 255)
    .map((value) => (value <= 0.04045 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4)) as Triple;

/** Contrast of two colours (WCAG 2.2, relative luminance). */
export function contrast(one: string, other: string): number {
  const [light, dark] = [one, other]
    .map(linear)
    .map(([red, green, blue]) => 0.2126 * red + 0.7152 * green + 0.0722 * blue)
    .sort((a, b) => b - a);
  return (light + 0.05) / (dark + 0.05);
}

/** A colour laid over another, `alpha` of it. */
export function mixed(over: string, under: string, alpha: number): string {
  const part = (at: number) => {
    const [one, other] = [over, under].map((hex) => parseInt(hex.slice(at, at + 2), 16));
    return Math.round(one * alpha + other * (1 - alpha))
      .toString(16)
      .padStart(2, '0');
  };
  return `#${part(1)}${part(3)}${part(5)}`;
}
